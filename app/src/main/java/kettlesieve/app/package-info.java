/**
 * The window. {@link kettlesieve.app.Launcher} starts it; {@code frame} holds the steps, each step
 * is a package of views, {@code model} is what they show.
 */
package kettlesieve.app;
