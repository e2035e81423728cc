/**
 * Playing without a window: switching without a click on a real or a simulated output ({@link
 * kettlesieve.core.listen.Player}), and the plan of a blind round.
 */
package kettlesieve.core.listen;
