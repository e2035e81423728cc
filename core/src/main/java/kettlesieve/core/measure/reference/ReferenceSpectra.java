package kettlesieve.core.measure.reference;

import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.signal.Spectrogram;

/** Short-time spectra of the clean recording, one a channel. */
final class ReferenceSpectra {
  /**
   * Those of the excerpt; asked for only where there is a clean recording. Not kept: of five
   * minutes in stereo they would take a quarter of the heap from those that are asked for many
   * times.
   */
  static final Analysis.OfSource<List<Spectrogram>> OF =
      s -> {
        Audio clean = s.reference().orElseThrow();
        return IntStream.range(0, clean.channels())
            .mapToObj(c -> Spectrogram.passing(clean, c))
            .toList();
      };

  private ReferenceSpectra() {}
}
