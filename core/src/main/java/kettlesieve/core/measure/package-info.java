/**
 * The model of a measure: what it is given ({@link kettlesieve.core.measure.Pair}, {@link
 * kettlesieve.core.measure.StemSet}, {@link kettlesieve.core.measure.StretchedPair}), what it
 * declares and what it gives ({@link kettlesieve.core.measure.Reading}), intervals by one
 * bootstrap. The measures themselves are in the packages below, one a family; {@link
 * kettlesieve.core.measure.Measures} finds and takes them.
 */
package kettlesieve.core.measure;
