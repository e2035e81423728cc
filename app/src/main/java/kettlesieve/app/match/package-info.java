/** The step Match: what was corrected, and what is set by hand. */
package kettlesieve.app.match;
