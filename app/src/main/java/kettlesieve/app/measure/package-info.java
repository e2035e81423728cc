/** The step Measure: the sheet, where a reading comes from, bleed by role, trade-off. */
package kettlesieve.app.measure;
