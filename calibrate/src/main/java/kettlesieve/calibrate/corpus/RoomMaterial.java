package kettlesieve.calibrate.corpus;

import kettlesieve.core.audio.Audio;

/**
 * A voice in a room as sound, one channel each, in parts that add up to the source.
 *
 * @param source all of it
 * @param direct the direct sound
 * @param early reflections of the first 50 ms
 * @param late those after them
 * @param noise of the room and the equipment
 */
public record RoomMaterial(Audio source, Audio direct, Audio early, Audio late, Audio noise) {
  /** The direct sound, and parts of the others. */
  public Audio mix(double earlyGain, double lateGain) {
    float[] x = direct.wholeChannel(0);
    float[] e = early.wholeChannel(0);
    float[] l = late.wholeChannel(0);
    float[] n = noise.wholeChannel(0);
    for (int i = 0; i < x.length; i++) {
      x[i] += (float) (earlyGain * e[i] + lateGain * l[i] + n[i]);
    }
    return Audio.of(direct.sampleRate(), x);
  }

  /** What a good processor keeps: direct sound and early reflections. */
  public float[] wanted() {
    return sum(direct, early);
  }

  /** What is unwanted: late reflections and noise. */
  public float[] unwanted() {
    return sum(late, noise);
  }

  /** The wanted sound by itself. */
  public RoomMaterial wantedAlone() {
    Audio silence = silence();
    return new RoomMaterial(
        Audio.of(direct.sampleRate(), wanted()), direct, early, silence, silence);
  }

  /** The unwanted sound by itself. */
  public RoomMaterial unwantedAlone() {
    Audio silence = silence();
    return new RoomMaterial(
        Audio.of(direct.sampleRate(), unwanted()), silence, silence, late, noise);
  }

  private Audio silence() {
    return Audio.of(direct.sampleRate(), new float[(int) direct.frames()]);
  }

  private static float[] sum(Audio a, Audio b) {
    float[] x = a.wholeChannel(0);
    float[] y = b.wholeChannel(0);
    for (int i = 0; i < x.length; i++) {
      x[i] += y[i];
    }
    return x;
  }
}
