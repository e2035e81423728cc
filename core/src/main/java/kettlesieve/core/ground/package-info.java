/**
 * What of a source is wanted, what is quiet, and where: activity and pauses, the room's decay, the
 * cells that count. Told of the source alone ({@link kettlesieve.core.ground.SourceMaterial},
 * {@link kettlesieve.core.ground.Ground}), so that the version that is judged never judges itself.
 * Used by matching (which levels are compared) and by measures.
 */
package kettlesieve.core.ground;
