/** The step Listen: lanes and the bar, and the blind round that takes the whole window. */
package kettlesieve.app.listen;
