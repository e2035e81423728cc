/**
 * What blind rounds say: exact tests, preferences, ratings, how ears and figures agree, and weights
 * that follow from them.
 */
package kettlesieve.core.score.ears;
