package kettlesieve.core.measure.reference;

import java.util.List;
import kettlesieve.core.match.SourceMaterial;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.signal.Spectrogram;

/** Short-time spectra of the clean recording, one a channel. */
final class ReferenceSpectra {
  /** Those of the excerpt; asked for only where there is a clean recording. */
  static final Analysis.OfSource<List<Spectrogram>> OF =
      s -> SourceMaterial.spectra(s.reference().orElseThrow());

  private ReferenceSpectra() {}
}
