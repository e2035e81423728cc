/**
 * Measures of stems: bleed by offender, what is missing, pumping, quiet detail, width, what the
 * stems leave of the mix.
 */
package kettlesieve.core.measure.stems;
