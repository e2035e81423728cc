/** The step Decide: the ranking, limits, ears, verdicts, and what leaves the program. */
package kettlesieve.app.decide;
