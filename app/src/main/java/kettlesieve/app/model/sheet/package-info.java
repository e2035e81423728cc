/** The sheet of readings as rows, columns and cells of text, and how it is laid out. */
package kettlesieve.app.model.sheet;
