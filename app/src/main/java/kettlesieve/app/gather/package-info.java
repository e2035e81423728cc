/** The step Gather: files, roles, tools and their amounts. */
package kettlesieve.app.gather;
