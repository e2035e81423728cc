package kettlesieve.core.measure.voice;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.Arrays;
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
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;
import kettlesieve.core.measure.StretchMeasure;
import kettlesieve.core.measure.StretchedPair;
import kettlesieve.core.measure.stems.RoleTiles;
import kettlesieve.core.measure.stretch.StretchedPitch;
import kettlesieve.core.measure.stretch.StretchedSpectra;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Up to where the wanted sound reaches. */
@AutoService(Measure.class)
public final class Bandwidth implements PairMeasure, SetMeasure, StretchMeasure {
  private static final int ENOUGH_CELLS = 40;
  private static final double LOST_DB = -15;
  private static final double SOFTEST_DB = -60;
  private static final double MIDDLE_DB = -20;
  private static final double STEPS_FROM_HZ = 50;
  private static final Declaration DECLARATION =
      new Declaration(
          "bandwidth",
          "Bandwidth",
          Axis.LOST.in(Job.DENOISE, Job.DEREVERB, Job.DECLIP, Job.STEMS, Job.STRETCH, Job.PITCH),
          "Hz",
          false,
          "The frequency up to which the wanted sound is still there. Below the source's own top,"
              + " the voice sounds muffled; near 3,400 Hz, like a telephone.",
          "Upper edge of the highest third-octave up to which all bands with 40 or more wanted cells"
              + " stay within 15 dB of the source; scored in octaves below the source's own top."
              + " In declip only over frames without clipped samples; in stems over the role's own"
              + " cells, the highest band within 15 dB of those within 60 dB of its loudest; in stretch and pitch of mean"
              + " spectra, in sixths of an octave, level by 300 to 3,000 Hz.",
          "Bands by IEC 61260-1; the telephone band by ITU-T G.712.");

  @Override
  public String scoredUnit() {
    return "octaves below the source's top";
  }

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
    WantedBands energies = pair.shared(WantedBands.OF);
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
    int start = pair.bands().bandAt(500);
    int top = top(cells);
    if (top <= start) {
      throw new NotMeasurableException("too little of the voice stands above the noise");
    }
    double nyquist = pair.framing().sampleRate() / 2.0;
    Estimate band = pair.bootstrap().estimate(w -> topBand(source, version, cells, start, top, w));
    Estimate hz = band.map(b -> Math.min(nyquist, ThirdOctaveBands.highHz((int) b)));
    double sourceHz = Math.min(nyquist, ThirdOctaveBands.highHz(top));
    return reading(hz, sourceHz, energies.gains(), 3)
        .withNotes(telephone(source, version, cells, pair.bands(), hz.value(), sourceHz));
  }

  /** Up to where a stem still holds what is its role's own. */
  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    RoleTiles tiles = new RoleTiles(set, role);
    int bands = tiles.pass().bands();
    int blocks = set.source().timeline().blocks();
    double[][] mix = new double[bands][blocks];
    double[][] stem = new double[bands][blocks];
    int[] cells = new int[bands];
    double[] power = new double[bands];
    double[] within = new double[2];
    PlaceGrid places = new PlaceGrid(set.source().timeline(), bands);
    int slotFrames = set.source().source().framing().framesIn(0.1);
    for (int s = 0; s < set.source().timeline().slots(); s++) {
      int block = set.source().timeline().blockOfSlot(s);
      for (int b = 0; b < bands; b++) {
        double there = tiles.mix(s, b);
        mix[b][block] += there;
        stem[b][block] += tiles.stem(s, b);
        within[0] += middle(b) ? there : 0;
        within[1] += middle(b) ? tiles.stem(s, b) : 0;
        power[b] += there;
        cells[b] += (int) tiles.cells(s, b);
        if (there > 0) {
          places.add(s * slotFrames, b, Pair.gainDb(there, tiles.stem(s, b)), there);
        }
      }
    }
    double loudest = Arrays.stream(power).max().orElse(0);
    int first = -1;
    for (int b = 0; b < bands; b++) {
      boolean counts = cells[b] >= ENOUGH_CELLS && power[b] > loudest * Db.toPower(SOFTEST_DB);
      cells[b] = counts ? cells[b] : 0;
      first = counts && first < 0 ? b : first;
    }
    int top = top(cells);
    if (first < 0 || top <= first) {
      throw new NotMeasurableException("there is too little in the mix that is " + role + " alone");
    }
    // The level is that of the middle, whatever was cut above; a bass has none there.
    double all = Arrays.stream(power).sum();
    double own = Arrays.stream(stem).flatMapToDouble(Arrays::stream).sum();
    boolean inside = within[0] > all * Db.toPower(MIDDLE_DB);
    double level = inside ? within[1] / within[0] : own / all;
    for (double[] band : mix) {
      for (int i = 0; i < band.length; i++) {
        band[i] *= Math.max(1e-9, level);
      }
    }
    double nyquist = set.mix().sampleRate() / 2.0;
    Estimate hz =
        set.source()
            .bootstrap()
            .estimate(w -> highestBand(mix, stem, cells, top, w))
            .map(b -> Math.min(nyquist, ThirdOctaveBands.highHz((int) b)));
    return reading(hz, Math.min(nyquist, ThirdOctaveBands.highHz(top)), places, 0);
  }

  /**
   * Up to where a version in its own time reaches, in steps of a sixth of an octave; one that was
   * to be shifted down may end lower.
   */
  @Override
  public Reading measure(StretchedPair warp) throws NotMeasurableException {
    StretchedSpectra spectra = warp.shared(StretchedSpectra.OF);
    double nyquist = warp.version().audio().sampleRate() / 2.0;
    double moved = warp.shared(StretchedPitch.OF).ratio();
    // Bands are those that the sound was moved to; what was slowed down has lost its top by that.
    double scale = moved;
    double lowered = Math.min(1, moved / warp.pitch());
    int steps = (int) (6 * Math.log(nyquist / STEPS_FROM_HZ) / Math.log(2));
    double[][] before = new double[steps][];
    double[][] after = new double[steps][];
    double[][] kept = new double[steps][];
    double loudest = 0;
    double[] all = new double[steps];
    for (int i = 0; i < steps; i++) {
      before[i] = spectra.blocks(false, stepHz(i), stepHz(i + 1));
      after[i] = spectra.blocks(true, scale * stepHz(i), scale * stepHz(i + 1));
      kept[i] = spectra.blocks(true, stepHz(i), stepHz(i + 1));
      all[i] = Arrays.stream(before[i]).sum();
      loudest = Math.max(loudest, all[i]);
    }
    double[] middleBefore = spectra.blocks(false, 300, 3000);
    double[] middleAfter = spectra.blocks(true, 300 * scale, 3000 * scale);
    double[] middleKept = spectra.blocks(true, 300, 3000);
    int[] counts = new int[steps];
    for (int i = 0; i < steps; i++) {
      boolean there = scale * stepHz(i + 1) <= nyquist;
      counts[i] = there && all[i] > loudest * Db.toPower(SOFTEST_DB) ? ENOUGH_CELLS : 0;
    }
    int top = top(counts);
    int start = (int) (6 * Math.log(500 / STEPS_FROM_HZ) / Math.log(2));
    if (top <= start) {
      throw new NotMeasurableException("there is too little above 500 Hz");
    }
    Estimate hz =
        warp.source()
            .bootstrap()
            .estimate(
                w -> {
                  double level = gain(middleBefore, middleAfter, w);
                  double own = gain(middleBefore, middleKept, w);
                  int reached = top;
                  for (; reached > start; reached--) {
                    // A voice that stays who it is keeps its top where it was.
                    double there = gain(before[reached], after[reached], w) - level;
                    double here = gain(before[reached], kept[reached], w) - own;
                    if (counts[reached] > 0 && Math.max(here, there) >= LOST_DB) {
                      break;
                    }
                  }
                  return lowered * stepHz(reached + 1);
                });
    PlaceGrid places = new PlaceGrid(warp.source().timeline(), warp.source().bands().count());
    int[] ones = new int[middleBefore.length];
    Arrays.fill(ones, 1);
    double level = gain(middleBefore, middleAfter, ones);
    int perBlock = Math.max(1, warp.source().timeline().frames() / ones.length);
    for (int b = 0; b < places.hz().length; b++) {
      if (Math.max(1, scale) * ThirdOctaveBands.highHz(b) > nyquist) {
        break;
      }
      double low = ThirdOctaveBands.lowHz(b);
      double high = ThirdOctaveBands.highHz(b);
      double[] own = spectra.blocks(false, low, high);
      double[] there = spectra.blocks(true, scale * low, scale * high);
      for (int i = 0; i < own.length; i++) {
        if (own[i] > 0) {
          places.add(i * perBlock, b, Pair.gainDb(own[i], there[i]) - level, own[i]);
        }
      }
    }
    return reading(hz, stepHz(top + 1), places, 0);
  }

  private static double stepHz(int step) {
    return STEPS_FROM_HZ * Math.pow(2, step / 6.0);
  }

  private static boolean middle(int band) {
    return ThirdOctaveBands.middleHz(band) >= 300 && ThirdOctaveBands.middleHz(band) <= 3000;
  }

  private static int top(int[] cells) {
    int top = -1;
    for (int b = 0; b < cells.length; b++) {
      top = cells[b] >= ENOUGH_CELLS ? b : top;
    }
    return top;
  }

  private static Reading reading(
      Estimate hz, double sourceHz, PlaceGrid places, double leastWeight) {
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("source", sourceHz, "Hz"));
    details.add(new Detail("octaves", Math.log(sourceHz / hz.value()) / Math.log(2), "oct"));
    return Reading.of(DECLARATION.id(), hz)
        .scoredAs(hz.map(x -> Math.log(sourceHz / x) / Math.log(2)))
        .withDetails(details)
        .withSpectrum(new BandSpectrum(places.hz(), places.perBand(), new double[0]))
        .withSpots(
            places.spots(false, LOST_DB, leastWeight).stream()
                .filter(s -> s.low() >= hz.value())
                .toList());
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

  /** The highest band that is there, whatever is missing under it: that is told elsewhere. */
  private static double highestBand(
      double[][] source, double[][] version, int[] cells, int top, int[] w) {
    int lowest = top;
    for (int b = top; b >= 0; b--) {
      if (cells[b] >= ENOUGH_CELLS) {
        if (gain(source[b], version[b], w) >= LOST_DB) {
          return b;
        }
        lowest = b;
      }
    }
    return lowest;
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
    Arrays.fill(all, 1);
    boolean lowLost = cells[low] >= ENOUGH_CELLS && gain(source[low], version[low], all) < LOST_DB;
    return lowLost && hz >= 2800 && hz <= 3600 && sourceHz > 4500
        ? List.of("what is left is the telephone band of 300–3,400 Hz")
        : List.of();
  }
}
