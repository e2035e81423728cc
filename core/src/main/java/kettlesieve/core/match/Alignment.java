package kettlesieve.core.match;

import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.LinearTimeAudio;

/**
 * Where a version lies on the source's time: source sample n is at version sample {@code
 * delaySamples + n·(1 + driftPpm·10⁻⁶)}, at the source's rate.
 *
 * @param delaySamples how late the version is at the source's first sample, samples
 * @param driftPpm how much longer it runs, parts per million
 * @param polarity 1 or −1
 * @param confidence peak of the normalised correlation, 0 to 1
 */
public record Alignment(double delaySamples, double driftPpm, int polarity, double confidence)
    implements Placement {

  double step() {
    return 1 + driftPpm * 1e-6;
  }

  /** The version as if it began with the source and ran at its speed, for {@code frames} frames. */
  Audio apply(Audio version, long frames) {
    return LinearTimeAudio.map(version, version.sampleRate(), frames, delaySamples, step())
        .times(polarity);
  }

  Alignment with(double newDelaySamples, double newDriftPpm) {
    return new Alignment(newDelaySamples, newDriftPpm, polarity, confidence);
  }
}
