/**
 * Work that takes a while: how far it has come ({@link kettlesieve.core.task.Progress}) and whether
 * it is still wanted ({@link kettlesieve.core.task.Stop}). Knows nothing of sound; everything may
 * use it.
 */
package kettlesieve.core.task;
