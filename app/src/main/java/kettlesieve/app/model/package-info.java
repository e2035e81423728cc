/**
 * What the window shows, as plain observable values without a window ({@link
 * kettlesieve.app.model.Workspace}): the document, the run in the background, listening, rounds,
 * tools. All properties change on the interface thread. Knows no view.
 */
package kettlesieve.app.model;
