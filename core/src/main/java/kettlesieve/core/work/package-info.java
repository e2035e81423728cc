/**
 * The one place where a comparison is read, matched, measured and ranked ({@link
 * kettlesieve.core.work.Conductor}), with what is kept of it by checksum ({@link
 * kettlesieve.core.work.ResultStore}). Used by the window and by the command line alike.
 */
package kettlesieve.core.work;
