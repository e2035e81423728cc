/**
 * What leaves the program: JSON, CSV, tables, the report as HTML and PDF, reels, listening sheets.
 * Comes in: a sheet and matched sound. Goes out: texts and files; the same sheet gives the same
 * bytes.
 */
package kettlesieve.core.report;
