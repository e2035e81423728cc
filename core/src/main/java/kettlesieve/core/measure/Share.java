package kettlesieve.core.measure;

/**
 * What one role has in a reading: one cell of the bleed grid.
 *
 * @param role the offending role
 * @param figure what it makes
 * @param evidence where that comes from
 */
public record Share(String role, Figure figure, Evidence evidence) {}
