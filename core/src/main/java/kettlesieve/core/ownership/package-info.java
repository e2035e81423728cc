/**
 * Whose each time–frequency cell of a mix is: by the true stems, by what the tools agree on, or by
 * a tool's own stems, in one walk for all tools ({@link kettlesieve.core.ownership.Ownership}).
 * Observers see the same spectra as they pass. Used by the measures of stems.
 */
package kettlesieve.core.ownership;
