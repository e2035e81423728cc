package kettlesieve.core.measure.noise;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.BandSpectrum;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PairMeasure;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.cells.CellPass;
import kettlesieve.core.measure.cells.ClippedFrames;
import kettlesieve.core.measure.cells.WantedBands;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Up to where the wanted sound reaches. */
@AutoService(Measure.class)
public final class Bandwidth implements PairMeasure {
  private static final int ENOUGH_CELLS = 40;
  private static final double LOST_DB = -15;
  private static final Declaration DECLARATION =
      new Declaration(
          "bandwidth",
          "Bandwidth",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP),
          "Hz",
          false,
          "The frequency up to which the wanted sound is still there. Below the source's own top,"
              + " the voice sounds muffled; near 3,400 Hz, like a telephone.",
          "Upper edge of the highest third-octave up to which all bands with 40 or more wanted cells"
              + " stay within 15 dB of the source; scored in octaves below the source's own top."
              + " In declip only over frames without clipped samples.",
          "Bands by IEC 61260-1; the telephone band by ITU-T G.712.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public double variation(Job job) {
    return job == Job.DENOISE ? 0.33 : 0;
  }

  @Override
  public Reading measure(Pair pair) throws NotMeasurableException {
    WantedBands energies = pair.shared(CellPass.OF).bands();
    int bands = pair.bands().count();
    ClippedFrames judged = pair.ofSource(ClippedFrames.OF);
    int blocks = pair.timeline().blocks();
    double[][] source = new double[bands][blocks];
    double[][] version = new double[bands][blocks];
    int[] cells = new int[bands];
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      if (!judged.judges(t)) {
        continue;
      }
      int block = pair.timeline().block(t);
      for (int b = 0; b < bands; b++) {
        source[b][block] += energies.source(t, b);
        version[b][block] += energies.version(t, b);
        cells[b] += energies.count(t, b);
      }
    }
    int sourceTop = -1;
    for (int b = 0; b < bands; b++) {
      sourceTop = cells[b] >= ENOUGH_CELLS ? b : sourceTop;
    }
    int start = pair.bands().bandAt(500);
    if (sourceTop <= start) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    int top = sourceTop;
    double nyquist = pair.framing().sampleRate() / 2.0;
    Estimate band = pair.bootstrap().estimate(w -> topBand(source, version, cells, start, top, w));
    Estimate hz = band.map(b -> Math.min(nyquist, ThirdOctaveBands.highHz((int) b)));
    double sourceHz = Math.min(nyquist, ThirdOctaveBands.highHz(top));
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("source", sourceHz, "Hz"));
    details.add(new Detail("octaves", Math.log(sourceHz / hz.value()) / Math.log(2), "oct"));
    PlaceGrid places = energies.gains();
    return Reading.of(DECLARATION.id(), hz)
        .scoredAs(hz.map(x -> Math.log(sourceHz / x) / Math.log(2)))
        .withDetails(details)
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(
            places.spots(false, LOST_DB, 3).stream().filter(s -> s.low() >= hz.value()).toList())
        .withNotes(telephone(source, version, cells, pair.bands(), hz.value(), sourceHz));
  }

  private static double topBand(
      double[][] source, double[][] version, int[] cells, int start, int sourceTop, int[] w) {
    int top = start;
    for (int b = start; b <= sourceTop; b++) {
      if (cells[b] < ENOUGH_CELLS) {
        continue;
      }
      if (gain(source[b], version[b], w) < LOST_DB) {
        return top;
      }
      top = b;
    }
    return top;
  }

  private static double gain(double[] source, double[] version, int[] weights) {
    double before = 0;
    double after = 0;
    for (int i = 0; i < weights.length; i++) {
      before += weights[i] * source[i];
      after += weights[i] * version[i];
    }
    return before > 0 ? Pair.gainDb(before, after) : 0;
  }

  private static List<String> telephone(
      double[][] source,
      double[][] version,
      int[] cells,
      ThirdOctaveBands bands,
      double hz,
      double sourceHz) {
    int low = bands.bandAt(200);
    int[] all = new int[source[0].length];
    java.util.Arrays.fill(all, 1);
    boolean lowLost = cells[low] >= ENOUGH_CELLS && gain(source[low], version[low], all) < LOST_DB;
    return lowLost && hz >= 2800 && hz <= 3600 && sourceHz > 4500
        ? List.of("what is left is the telephone band of 300–3,400 Hz")
        : List.of();
  }
}
