package kettlesieve.core.ground;

/**
 * What is kept of the pauses of a source, so that opening what was measured before looks for
 * nothing again.
 *
 * @param frames one a frame: 1 where it holds wanted sound, 2 where it lies in a pause, else 0
 * @param problem why pauses cannot be used; null if they can
 * @param spreadDb robust deviation of the level in the pauses
 * @param certain whether a person or a clean recording told them
 * @param notSteady see {@link PauseGround#notSteady}
 * @param floorDb see {@link PauseGround#floorDb}
 */
public record PauseFacts(
    byte[] frames,
    String problem,
    double spreadDb,
    boolean certain,
    boolean notSteady,
    double floorDb) {}
