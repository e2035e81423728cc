package kettlesieve.core.measure.pass;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.measure.SourceAnalysis;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.Timeline;
import kettlesieve.core.ownership.Ownership;
import kettlesieve.core.signal.ThirdOctaveBands;

/** Gathers {@link StemSums} in the walk over all spectra that tells whose the cells are. */
public final class StemSumsPass implements Ownership.AllObserver {
  /** Frames overlap by three quarters; every other one tells the same. */
  private static final int EVERY = 2;

  /** Frames that are taken to a tile of {@link StemSums#beyond}. */
  private static final int TILE = 8;

  private final Timeline timeline;
  private final int bands;
  private final int[] firstBins;
  private final int[] endBins;
  private final int coefficients;
  private final StemSums gathered;

  /** By tool, how each of its parts comes about: a stem's number, or a sum of stems. */
  private final List<List<MadeStem>> made = new ArrayList<>();

  /**
   * @param together all whose stems are looked at, in the order of the frames' views
   */
  public StemSumsPass(StemsTogether together) {
    this(together.source(), together.tools(), List.copyOf(together.truth().keySet()));
  }

  private StemSumsPass(SourceAnalysis source, List<MatchedStems> tools, List<String> truth) {
    this.timeline = source.timeline();
    ThirdOctaveBands third = source.bands();
    this.bands = third.count();
    this.firstBins = new int[bands];
    this.endBins = new int[bands];
    for (int b = 0; b < bands; b++) {
      firstBins[b] = Math.max(1, third.firstBin(b));
      endBins[b] = Math.max(firstBins[b], third.endBin(b));
    }
    // What lies under the bands is heard and summed, too.
    firstBins[0] = 1;
    for (int b = 1; b < bands; b++) {
      firstBins[b] = endBins[b - 1];
      endBins[b] = Math.max(firstBins[b], endBins[b]);
    }
    this.coefficients = source.source().framing().length();
    endBins[bands - 1] = coefficients / 2;
    List<List<String>> roles = new ArrayList<>();
    for (MatchedStems tool : tools) {
      List<String> stems = List.copyOf(tool.stems().keySet());
      List<MadeStem> own = new ArrayList<>();
      tool.formed().keySet().forEach(r -> own.add(MadeStem.formed(r, stems)));
      made.add(own);
      roles.add(List.copyOf(tool.parts().keySet()));
    }
    if (truth.size() >= 2) {
      addTruth(truth, roles);
    }
    this.gathered = new StemSums(roles, timeline.blocks(), bands);
  }

  /** The true stems come after all tools, and what is formed of stems is formed of them, too. */
  private void addTruth(List<String> truth, List<List<String>> roles) {
    List<String> all = new ArrayList<>(truth);
    List<MadeStem> formed = new ArrayList<>();
    for (List<String> tool : List.copyOf(roles)) {
      for (String role : tool) {
        List<String> of = Roles.parts(role).isEmpty() ? Roles.without(role) : Roles.parts(role);
        if (!of.isEmpty() && truth.containsAll(of) && !all.contains(role)) {
          all.add(role);
          formed.add(MadeStem.formed(role, truth));
        }
      }
    }
    made.add(formed);
    roles.add(all);
  }

  /** What was gathered; complete after the walk. */
  public StemSums sums() {
    return gathered;
  }

  @Override
  public Ownership.AllLook look(int first, int count) {
    return new Seen(first, count);
  }

  private final class Seen implements Ownership.AllLook {
    private final int firstBlock;
    private final int tools = gathered.tools();
    private final int signals = gathered.signals();
    private final int pairs = gathered.pairs();

    /** By block of this run, band and pair. */
    private final double[][][] products;

    private final double[][][] beyond;
    private final double[][][] quadrature;
    private final double[][][] together;

    /** Of the tile that is under way, by band and signal: in phase with the mix, and its own. */
    private final double[][] along = new double[bands][signals];

    private final double[][] own = new double[bands][signals];
    private int inTile;
    private int tileBlock;

    /** By channel and signal, of one frame. */
    private float[][][] frame;

    private final float[][][][] formed;

    Seen(int first, int count) {
      this.firstBlock = timeline.block(first);
      int span = timeline.block(first + count - 1) - firstBlock + 1;
      products = new double[span][bands][pairs];
      beyond = new double[span][bands][signals];
      quadrature = new double[span][bands][signals];
      together = new double[span][bands][tools];
      formed = new float[tools][][][];
    }

    @Override
    public void at(int index, int t, float[][][] mix, float[][][][][] views) {
      if (index % EVERY != 0) {
        return;
      }
      fill(t, mix, views);
      int block = timeline.block(index) - firstBlock;
      if (inTile == 0) {
        tileBlock = block;
      }
      for (int b = 0; b < bands; b++) {
        if (endBins[b] > firstBins[b]) {
          multiply(2 * firstBins[b], 2 * endBins[b], products[block][b], along[b], own[b]);
          quadratures(firstBins[b], endBins[b], quadrature[block][b], together[block][b]);
        }
      }
      if (++inTile == TILE) {
        endTile();
      }
    }

    private void fill(int t, float[][][] mix, float[][][][][] views) {
      int channels = mix.length;
      if (frame == null) {
        frame = new float[channels][signals][];
        for (int u = 0; u < tools; u++) {
          formed[u] = new float[made.get(u).size()][channels][coefficients];
        }
      }
      for (int c = 0; c < channels; c++) {
        frame[c][0] = mix[c][t];
        int n = 1;
        for (int u = 0; u < tools; u++) {
          for (float[][][] stem : views[u]) {
            frame[c][n++] = stem[c][t];
          }
          for (int m = 0; m < formed[u].length; m++) {
            made.get(u).get(m).form(mix[c][t], views[u], c, t, formed[u][m][c]);
            frame[c][n++] = formed[u][m][c];
          }
        }
      }
    }

    private void multiply(int from, int to, double[] sums, double[] withMix, double[] alone) {
      for (float[][] channel : frame) {
        int p = 0;
        for (int i = 0; i < signals; i++) {
          float[] x = channel[i];
          int j = 0;
          for (; j + 1 <= i; j += 2) {
            float[] y = channel[j];
            float[] z = channel[j + 1];
            float one = 0;
            float other = 0;
            float oneMore = 0;
            float otherMore = 0;
            for (int k = from; k < to; k += 2) {
              float re = x[k];
              float im = x[k + 1];
              one += re * y[k];
              oneMore += im * y[k + 1];
              other += re * z[k];
              otherMore += im * z[k + 1];
            }
            sums[p + j] += one + oneMore;
            sums[p + j + 1] += other + otherMore;
            if (j == 0) {
              withMix[i] += one + oneMore;
            }
            if (j + 1 == i) {
              alone[i] += other + otherMore;
            }
          }
          if (j == i) {
            float[] y = channel[j];
            float one = 0;
            float oneMore = 0;
            for (int k = from; k < to; k += 2) {
              one += x[k] * y[k];
              oneMore += x[k + 1] * y[k + 1];
            }
            sums[p + j] += one + oneMore;
            alone[i] += one + oneMore;
            if (j == 0) {
              withMix[i] += one + oneMore;
            }
          }
          p += i + 1;
        }
      }
    }

    private void quadratures(int from, int to, double[] sums, double[] sumsTogether) {
      for (float[][] channel : frame) {
        float[] x = channel[0];
        for (int k = from; k < to; k++) {
          float re = x[2 * k];
          float im = x[2 * k + 1];
          float power = re * re + im * im;
          if (!(power > 0)) {
            continue;
          }
          float by = 1 / power;
          int n = 1;
          for (int u = 0; u < tools; u++) {
            float all = 0;
            int stems = gathered.roles(u).size() - made.get(u).size();
            for (int s = 0; s < gathered.roles(u).size(); s++) {
              float[] y = channel[n];
              float cross = y[2 * k + 1] * re - y[2 * k] * im;
              sums[n++] += cross * cross * by;
              all += s < stems ? cross : 0;
            }
            sumsTogether[u] += all * all * by;
          }
        }
      }
    }

    private void endTile() {
      for (int b = 0; b < bands; b++) {
        for (int i = 0; i < signals; i++) {
          beyond[tileBlock][b][i] += Math.max(0, along[b][i] - own[b][i]);
        }
        Arrays.fill(along[b], 0);
        Arrays.fill(own[b], 0);
      }
      inTile = 0;
    }

    @Override
    public void done() {
      if (inTile > 0) {
        endTile();
      }
      for (int s = 0; s < products.length; s++) {
        int block = firstBlock + s;
        for (int b = 0; b < bands; b++) {
          int place = block * bands + b;
          for (int p = 0; p < pairs; p++) {
            gathered.products[place * pairs + p] += (float) products[s][b][p];
          }
          int places = timeline.blocks() * bands;
          for (int i = 0; i < signals; i++) {
            gathered.beyond[i * places + place] += (float) beyond[s][b][i];
            gathered.quadrature[i * places + place] += (float) quadrature[s][b][i];
          }
          for (int u = 0; u < tools; u++) {
            gathered.together[u * places + place] += (float) together[s][b][u];
          }
        }
      }
    }
  }
}
