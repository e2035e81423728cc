/**
 * Files in and out: decoding whole and checked ({@link kettlesieve.core.media.MediaReader}), WAV
 * and FLAC written, and the rules of writing anything at all ({@link
 * kettlesieve.core.media.WholeFile}). Comes in: paths. Goes out: recordings with their facts, or a
 * {@link kettlesieve.core.media.MediaException} that names the file and the remedy.
 */
package kettlesieve.core.media;
