package kettlesieve.core.work;

/**
 * One run of the work on one comparison: whoever takes results asks first whether they are of the
 * run that is wanted now.
 *
 * @param comparison which comparison, counted as they are opened
 * @param run which run on it
 */
public record RunId(long comparison, long run) {}
