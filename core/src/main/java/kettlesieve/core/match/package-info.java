/**
 * Puts versions where they belong: rate, channels, delay, drift, polarity, level, or a map to a
 * time of their own. Comes in: the source's ground and a version as delivered. Goes out: a {@link
 * kettlesieve.core.match.Matched} and a {@link kettlesieve.core.match.Match} that says what was
 * corrected. Central class: {@link kettlesieve.core.match.Matcher}.
 */
package kettlesieve.core.match;
