/**
 * The round-up's own room in the window: many comparisons together. Comes in: {@link
 * kettlesieve.app.model.RoundupDesk}. Central class: {@link kettlesieve.app.roundup.RoundupView}.
 */
package kettlesieve.app.roundup;
