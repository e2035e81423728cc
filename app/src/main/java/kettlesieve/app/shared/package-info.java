/**
 * Controls that several steps use: lanes, signs, plots, hints, texts. Knows {@code model} and no
 * step.
 */
package kettlesieve.app.shared;
