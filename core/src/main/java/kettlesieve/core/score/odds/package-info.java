/**
 * From a difference in score to odds. Comes in: overall scores with their draws, and how far scores
 * of a job were found to miss the truth. Goes out: the chance that one version is truly better than
 * another, and that it is the best. Knows no sheet. Central class: {@link
 * kettlesieve.core.score.odds.Odds}.
 */
package kettlesieve.core.score.odds;
