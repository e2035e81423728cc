package kettlesieve.core.ownership;

import java.util.Arrays;
import java.util.List;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Some frames of the walk in which {@link Ownership} tells whose the cells are: every signal is
 * transformed once, and onlookers see the same spectra. Used by one thread.
 */
final class OwnershipWalk {
  /** A role owns a cell from this share of its power on. */
  private static final float OWNED = 0.9f;

  /** Cells this far under the strongest of their frame are not heard, 50 dB. */
  private static final float HEARD = 1e-5f;

  private static final float LEAST_POWER = 1e-10f;

  /**
   * The same for all frames.
   *
   * @param mix its spectra by channel
   * @param roles of all that are judged
   * @param forms by view and role, the view's stems that the role is made of; none if it cannot be
   * @param told by view, which of the judged tells whose its cells are; −1 for the true stems
   */
  record Plan(
      Framing framing,
      ThirdOctaveBands bands,
      List<Spectrogram> mix,
      List<Ownership.View> views,
      List<Ownership.Judged> judged,
      List<String> roles,
      int[][][] forms,
      int[] told) {}

  private final Plan plan;
  private final List<Ownership.Look> looks;
  private final Ownership.AllLook all;
  private final int first;
  private final int count;

  /**
   * Coefficients of the mix by channel and frame, and of stems by view, stem, channel and frame.
   */
  private final float[][][] mixture;

  private final float[][][][][] stems;

  // Of the frame that is walked over, by bin; of views also by stem.
  private final float[] mixPower;
  private final float[][][] powers;
  private final float[][] left;
  private final float[][] total;

  /** By view and role: the role's share of a cell. */
  private final float[][] shares;

  /** By view: whether it gives the cell to some role. */
  private final boolean[] owning;

  /** By what is judged: its roles among all. */
  private final int[][] roles;

  /** By what is judged: whether some of its views cannot form some role. */
  private final boolean[] partial;

  private final CellMask[][] cells;

  /** Transforms some frames. */
  OwnershipWalk(
      Plan plan, List<Ownership.Look> looks, Ownership.AllLook all, int first, int count) {
    this.plan = plan;
    this.looks = looks;
    this.all = all;
    this.first = first;
    this.count = count;
    int bins = plan.framing().bins();
    int views = plan.views().size();
    mixture = Spectrogram.coefficients(plan.mix(), first, count);
    stems = new float[views][][][][];
    powers = new float[views][][];
    for (int u = 0; u < views; u++) {
      List<List<Spectrogram>> spectra = plan.views().get(u).spectra();
      stems[u] = new float[spectra.size()][][][];
      for (int r = 0; r < spectra.size(); r++) {
        stems[u][r] = Spectrogram.coefficients(spectra.get(r), first, count);
      }
      powers[u] = new float[spectra.size()][bins];
    }
    mixPower = new float[bins];
    left = new float[views][bins];
    total = new float[views][bins];
    shares = new float[views][plan.roles().size()];
    owning = new boolean[views];
    roles = new int[plan.judged().size()][];
    partial = new boolean[roles.length];
    cells = new CellMask[roles.length][];
    for (int j = 0; j < roles.length; j++) {
      Ownership.Judged own = plan.judged().get(j);
      roles[j] = own.roles().stream().mapToInt(plan.roles()::indexOf).toArray();
      cells[j] = own.cells().toArray(new CellMask[0]);
      for (int u : own.views()) {
        for (int role : roles[j]) {
          partial[j] |= plan.forms()[u][role].length == 0;
        }
      }
    }
  }

  /** Walks over the frames. */
  void walk() {
    float[][] rest = new float[mixture.length][plan.framing().length()];
    for (int t = 0; t < count; t++) {
      Ownership.power(frame(mixture, t), mixPower);
      for (int u = 0; u < stems.length; u++) {
        powers(u, t, rest);
      }
      judge(t);
      show(t);
      if (all != null) {
        all.at(first + t, t, mixture, stems);
      }
    }
  }

  private static float[][] frame(float[][][] channels, int t) {
    float[][] frame = new float[channels.length][];
    for (int c = 0; c < frame.length; c++) {
      frame[c] = channels[c][t];
    }
    return frame;
  }

  /** Powers of a view's stems, of what they leave of the mix, and of all these together. */
  private void powers(int view, int t, float[][] rest) {
    float[][] mix = frame(mixture, t);
    for (int c = 0; c < mix.length; c++) {
      System.arraycopy(mix[c], 0, rest[c], 0, mix[c].length);
    }
    float[] all = total[view];
    Arrays.fill(all, 0);
    for (int r = 0; r < powers[view].length; r++) {
      float[] own = powers[view][r];
      Arrays.fill(own, 0);
      float[][][] of = stems[view][r];
      int c = 0;
      for (; c + 1 < mix.length; c += 2) {
        take(of[c][t], rest[c], of[c + 1][t], rest[c + 1], own, all);
      }
      if (c < mix.length) {
        take(of[c][t], rest[c], own, all);
      }
    }
    float[] over = left[view];
    Arrays.fill(over, 0);
    int c = 0;
    for (; c + 1 < rest.length; c += 2) {
      float[] one = rest[c];
      float[] other = rest[c + 1];
      for (int k = 1; k < over.length - 1; k++) {
        float re = one[2 * k];
        float im = one[2 * k + 1];
        float power = re * re + im * im;
        re = other[2 * k];
        im = other[2 * k + 1];
        power += re * re + im * im;
        over[k] += power;
        all[k] += power;
      }
    }
    if (c < rest.length) {
      for (int k = 1; k < over.length - 1; k++) {
        float re = rest[c][2 * k];
        float im = rest[c][2 * k + 1];
        float power = re * re + im * im;
        over[k] += power;
        all[k] += power;
      }
    }
  }

  /** Takes coefficients from what is left, and adds their power to two sums: all in one loop. */
  private static void take(float[] coefficients, float[] rest, float[] own, float[] all) {
    for (int k = 1; k < own.length - 1; k++) {
      float re = coefficients[2 * k];
      float im = coefficients[2 * k + 1];
      rest[2 * k] -= re;
      rest[2 * k + 1] -= im;
      float power = re * re + im * im;
      own[k] += power;
      all[k] += power;
    }
  }

  /** The same for two channels: the sums are fetched once. */
  private static void take(
      float[] one,
      float[] restOfOne,
      float[] other,
      float[] restOfOther,
      float[] own,
      float[] all) {
    for (int k = 1; k < own.length - 1; k++) {
      float re = one[2 * k];
      float im = one[2 * k + 1];
      restOfOne[2 * k] -= re;
      restOfOne[2 * k + 1] -= im;
      float power = re * re + im * im;
      re = other[2 * k];
      im = other[2 * k + 1];
      restOfOther[2 * k] -= re;
      restOfOther[2 * k + 1] -= im;
      power += re * re + im * im;
      own[k] += power;
      all[k] += power;
    }
  }

  private void judge(int t) {
    float strongest = 0;
    for (float p : mixPower) {
      if (p > strongest) {
        strongest = p;
      }
    }
    float heard = Math.max(LEAST_POWER, HEARD * strongest);
    float[] room = new float[shares.length];
    float[] mean = new float[plan.roles().size()];
    for (int k = 1; k < mixPower.length - 1; k++) {
      int band = plan.bands().ofBin(k);
      if (band < 0 || mixPower[k] < heard) {
        continue;
      }
      boolean none = true;
      for (int u = 0; u < shares.length; u++) {
        owning[u] = share(u, k) >= OWNED;
        none &= !owning[u];
      }
      if (none) {
        continue;
      }
      int place = (first + t) / Ownership.slotFrames(plan.framing()) * plan.bands().count() + band;
      for (int j = 0; j < roles.length; j++) {
        own(j, t, k, place, mean, room);
      }
    }
  }

  /** Works out a view's shares of a cell; returns the largest. */
  private float share(int view, int k) {
    float largest = 0;
    float by = total[view][k] > 0 ? 1 / total[view][k] : 0;
    int[][] forms = plan.forms()[view];
    float[][] own = powers[view];
    float[] to = shares[view];
    for (int r = 0; r < to.length; r++) {
      float sum = 0;
      for (int stem : forms[r]) {
        sum += own[stem][k];
      }
      float share = sum * by;
      to[r] = share;
      if (share > largest) {
        largest = share;
      }
    }
    return largest;
  }

  private void own(int judged, int t, int k, int place, float[] mean, float[] room) {
    Ownership.Judged own = plan.judged().get(judged);
    int owners = 0;
    for (int u : own.views()) {
      owners += owning[u] ? 1 : 0;
    }
    if (owners == 0 || !partial[judged] && owners < (own.views().length + 1) / 2) {
      // No median reaches it.
      return;
    }
    int[] all = roles[judged];
    for (int r = 0; r < all.length; r++) {
      mean[r] = agreed(own.views(), all[r], room);
    }
    for (int o = 0; o < all.length; o++) {
      if (mean[o] >= OWNED) {
        cells[judged][o].set(first + t, k);
        own.mix()[o][place] += mixPower[k];
        for (int r = 0; r < all.length; r++) {
          own.content()[o][r][place] += mean[r] * mixPower[k];
        }
      }
    }
  }

  /** What the views that can form a role agree on: the median of its shares. */
  private float agreed(int[] views, int role, float[] room) {
    int n = 0;
    for (int u : views) {
      if (plan.forms()[u][role].length > 0) {
        float share = shares[u][role];
        // Few views: put in order as they come.
        int at = n++;
        while (at > 0 && room[at - 1] > share) {
          room[at] = room[at - 1];
          at--;
        }
        room[at] = share;
      }
    }
    return n == 0 ? 0 : (room[(n - 1) / 2] + room[n / 2]) / 2;
  }

  private void show(int t) {
    for (int u = 0; u < looks.size(); u++) {
      if (looks.get(u) != null) {
        float[][][] own = new float[stems[u].length][][];
        for (int r = 0; r < own.length; r++) {
          own[r] = frame(stems[u][r], t);
        }
        CellMask[] masks = cells[plan.told()[u]];
        looks
            .get(u)
            .at(
                new Ownership.Frame(
                    first + t, frame(mixture, t), own, mixPower, powers[u], left[u], masks));
      }
    }
  }
}
