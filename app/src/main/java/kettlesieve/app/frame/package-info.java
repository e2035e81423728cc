/**
 * The window's frame: rail, bar, menus, keys, look, what is remembered of it. Knows all steps; no
 * step knows it.
 */
package kettlesieve.app.frame;
