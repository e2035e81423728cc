/**
 * Test material whose truth is known, out of recordings of one's own. Comes in: a clean recording
 * (or true stems) and what is to be done to it; goes out: the source, and the comparison around it
 * that says how it was made. The same words and seed give the same samples. Central class: {@link
 * kettlesieve.core.testpiece.TestPiece}.
 */
package kettlesieve.core.testpiece;
