package kettlesieve.core.match;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.signal.Audio;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.Stop;
import kettlesieve.core.signal.ThirdOctaveBands;

/**
 * Tells whose the cells of a mix are, for all versions in one pass over the spectra of the mix and
 * of all stems: by the true stems where they are known, else for each version by the median of what
 * the others make of a cell, else by its own.
 *
 * <p>A view's share of a role in a cell is the power of its stem over the power of all its stems
 * and of what they leave of the mix. A role that is "everything but" another is formed of the
 * others.
 */
public final class Ownership {
  /** A role owns a cell from this share of its power on. */
  private static final float OWNED = 0.9f;

  /** Cells this far under the strongest of their frame are not heard, 50 dB. */
  private static final float HEARD = 1e-5f;

  private static final float LEAST_POWER = 1e-10f;
  private static final int SLOTS_A_TILE = 7;

  private final SourceMaterial mix;
  private final Framing framing;
  private final ThirdOctaveBands bands;
  private final List<View> views;
  private final List<Judged> judged;
  private final Stop stop;

  /** One set of stems of the mix. */
  private record View(List<String> roles, List<List<Spectrogram>> spectra) {
    /** Indices of the stems that a role is formed of; empty if it cannot be. */
    List<Integer> form(String role) {
      if (roles.contains(role)) {
        return List.of(roles.indexOf(role));
      }
      List<String> parts = Roles.parts(role);
      if (!parts.isEmpty() && roles.containsAll(parts)) {
        return parts.stream().map(roles::indexOf).toList();
      }
      List<String> others = Roles.without(role);
      if (others.isEmpty() || !roles.containsAll(others)) {
        return List.of();
      }
      return IntStream.range(0, roles.size())
          .filter(i -> !others.contains(roles.get(i)) && !Roles.composite(roles.get(i)))
          .boxed()
          .toList();
    }
  }

  /** Whose cells are told by which views. */
  private record Judged(
      List<String> versions,
      RoleCells.By by,
      List<Integer> views,
      List<String> roles,
      List<CellMask> cells,
      float[][][] content,
      float[][] mix) {}

  private Ownership(
      SourceMaterial mix,
      List<View> views,
      List<Judged> judged,
      ThirdOctaveBands bands,
      Stop stop) {
    this.mix = mix;
    this.framing = mix.framing();
    this.bands = bands;
    this.views = views;
    this.judged = judged;
    this.stop = stop;
  }

  /**
   * Whose the cells are, for each version.
   *
   * @param mix the analysed mix
   * @param versions by id
   * @param truth what the mix was made of, by role, at its rate and on its time line; empty if that
   *     is not known
   * @param stop asked now and then
   */
  public static Map<String, RoleCells> of(
      SourceMaterial mix, Map<String, MatchedStems> versions, Map<String, Audio> truth, Stop stop) {
    List<View> views = new ArrayList<>();
    versions.values().forEach(v -> views.add(view(mix, v.stems())));
    Set<String> formed = new LinkedHashSet<>();
    versions.values().forEach(v -> formed.addAll(v.formed().keySet()));
    boolean known = truth.size() >= 2;
    if (known) {
      views.add(view(mix, truth));
    }
    List<String> ids = List.copyOf(versions.keySet());
    List<Judged> judged = new ArrayList<>();
    Set<String> byTruth = new LinkedHashSet<>();
    Set<String> roles = new LinkedHashSet<>(truth.keySet());
    for (int i = 0; i < ids.size(); i++) {
      List<Integer> others = IntStream.range(0, ids.size()).boxed().collect(Collectors.toList());
      others.remove(Integer.valueOf(i));
      if (known && tells(views, List.of(ids.size()), views.get(i))) {
        byTruth.add(ids.get(i));
        roles.addAll(views.get(i).roles());
      } else if (tells(views, others, views.get(i))) {
        judged.add(judged(mix, List.of(ids.get(i)), RoleCells.By.OTHERS, others, views, formed));
      } else {
        judged.add(
            judged(mix, List.of(ids.get(i)), RoleCells.By.OWN_STEMS, List.of(i), views, Set.of()));
      }
    }
    roles.addAll(formed);
    if (!byTruth.isEmpty()) {
      judged.add(
          judged(
              mix,
              List.copyOf(byTruth),
              RoleCells.By.TRUE_STEMS,
              List.of(ids.size()),
              views,
              roles));
    }
    return new Ownership(mix, views, judged, new ThirdOctaveBands(mix.framing()), stop).told();
  }

  /** Whether some views can form any of the stems of another. */
  private static boolean tells(List<View> views, List<Integer> told, View of) {
    return of.roles().stream()
        .anyMatch(r -> told.stream().anyMatch(u -> !views.get(u).form(r).isEmpty()));
  }

  private static View view(SourceMaterial mix, Map<String, Audio> stems) {
    long from = mix.firstFrame();
    List<List<Spectrogram>> spectra = new ArrayList<>();
    for (Audio stem : stems.values()) {
      Audio there = stem.asChannels(mix.channels()).slice(from, from + mix.audio().frames());
      spectra.add(SourceMaterial.spectra(there));
    }
    return new View(List.copyOf(stems.keySet()), spectra);
  }

  /**
   * Of the roles that the views give, those that were asked for, and what can be formed of them.
   */
  private static Judged judged(
      SourceMaterial mix,
      List<String> ids,
      RoleCells.By by,
      List<Integer> told,
      List<View> views,
      Set<String> more) {
    Set<String> roles = new LinkedHashSet<>(more);
    for (int u : told) {
      views.get(u).roles().stream()
          .filter(r -> by == RoleCells.By.OWN_STEMS || !Roles.composite(r))
          .forEach(roles::add);
    }
    if (by == RoleCells.By.OTHERS) {
      // What the judged one gives beside these may be formed of them.
      views.forEach(v -> roles.addAll(v.roles()));
    }
    List<String> formed =
        roles.stream()
            .filter(r -> told.stream().anyMatch(u -> !views.get(u).form(r).isEmpty()))
            .toList();
    List<CellMask> cells =
        formed.stream()
            .map(r -> new CellMask(mix.framing().count(), mix.framing().bins()))
            .toList();
    int places = slots(mix.framing()) * new ThirdOctaveBands(mix.framing()).count();
    return new Judged(
        ids,
        by,
        told,
        formed,
        cells,
        new float[formed.size()][formed.size()][places],
        new float[formed.size()][places]);
  }

  /** Frames of a slot of about a tenth of a second. */
  static int slotFrames(Framing framing) {
    return framing.framesIn(0.1);
  }

  private static int slots(Framing framing) {
    return (framing.count() + slotFrames(framing) - 1) / slotFrames(framing);
  }

  private Map<String, RoleCells> told() {
    int tile = SLOTS_A_TILE * slotFrames(framing);
    int tiles = (framing.count() + tile - 1) / tile;
    // Tiles hold different frames and slots: they write to different places, in any order.
    IntStream.range(0, tiles).parallel().forEach(t -> tile(t * tile, tile));
    Map<String, RoleCells> told = new LinkedHashMap<>();
    for (Judged own : judged) {
      Map<String, CellMask> cells = new LinkedHashMap<>();
      Map<String, Map<String, float[]>> content = new LinkedHashMap<>();
      for (int o = 0; o < own.roles().size(); o++) {
        cells.put(own.roles().get(o), own.cells().get(o));
        Map<String, float[]> others = new LinkedHashMap<>();
        for (int r = 0; r < own.roles().size(); r++) {
          float[] share = own.content()[o][r];
          if (own.by() == RoleCells.By.TRUE_STEMS) {
            for (int i = 0; i < share.length; i++) {
              share[i] = own.mix()[o][i] > 0 ? share[i] / own.mix()[o][i] : 0;
            }
          } else {
            // What others have there at one moment may be leakage of their own.
            spread(share, own.mix()[o]);
          }
          others.put(own.roles().get(r), share);
        }
        content.put(own.roles().get(o), others);
      }
      RoleCells all = new RoleCells(own.by(), cells, content, bands.count());
      own.versions().forEach(id -> told.put(id, all));
    }
    return told;
  }

  /** Each band's share over all slots, in all of them. */
  private void spread(float[] share, float[] mix) {
    for (int b = 0; b < bands.count(); b++) {
      double part = 0;
      double whole = 0;
      for (int i = b; i < share.length; i += bands.count()) {
        part += share[i];
        whole += mix[i];
      }
      for (int i = b; i < share.length; i += bands.count()) {
        share[i] = whole > 0 ? (float) (part / whole) : 0;
      }
    }
  }

  private void tile(int first, int frames) {
    stop.check();
    int count = Math.min(frames, framing.count() - first);
    int bins = framing.bins();
    List<float[][]> mixture = coefficients(SourceMaterial.spectra(mix.audio()), first, count);
    float[][] mixPower = power(mixture, count, bins);
    float[][][][] shares = new float[views.size()][][][];
    for (int u = 0; u < shares.length; u++) {
      shares[u] = shares(views.get(u), mixture, first, count, bins);
    }
    for (Judged own : judged) {
      judge(own, shares, mixPower, first, count);
    }
  }

  private static List<float[][]> coefficients(List<Spectrogram> channels, int first, int count) {
    return channels.stream().map(c -> c.coefficients(first, count)).toList();
  }

  private static float[][] power(List<float[][]> channels, int count, int bins) {
    float[][] power = new float[count][bins];
    for (float[][] c : channels) {
      for (int t = 0; t < count; t++) {
        for (int k = 1; k < bins - 1; k++) {
          float re = c[t][2 * k];
          float im = c[t][2 * k + 1];
          power[t][k] += re * re + im * im;
        }
      }
    }
    return power;
  }

  /** Shares of a view's stems in each cell, by stem. */
  private static float[][][] shares(
      View view, List<float[][]> mixture, int first, int count, int bins) {
    List<float[][]> left = new ArrayList<>();
    mixture.forEach(
        c -> {
          float[][] copy = new float[count][];
          for (int t = 0; t < count; t++) {
            copy[t] = c[t].clone();
          }
          left.add(copy);
        });
    float[][][] powers = new float[view.roles().size()][][];
    for (int r = 0; r < powers.length; r++) {
      List<float[][]> stem = coefficients(view.spectra().get(r), first, count);
      powers[r] = power(stem, count, bins);
      for (int c = 0; c < left.size(); c++) {
        for (int t = 0; t < count; t++) {
          float[] to = left.get(c)[t];
          float[] part = stem.get(c)[t];
          for (int i = 0; i < to.length; i++) {
            to[i] -= part[i];
          }
        }
      }
    }
    float[][] all = power(left, count, bins);
    for (float[][] p : powers) {
      for (int t = 0; t < count; t++) {
        for (int k = 0; k < bins; k++) {
          all[t][k] += p[t][k];
        }
      }
    }
    for (float[][] p : powers) {
      for (int t = 0; t < count; t++) {
        for (int k = 0; k < bins; k++) {
          p[t][k] = all[t][k] > 0 ? p[t][k] / all[t][k] : 0;
        }
      }
    }
    return powers;
  }

  private void judge(Judged own, float[][][][] shares, float[][] mixPower, int first, int count) {
    int roles = own.roles().size();
    List<List<List<Integer>>> forms = new ArrayList<>();
    for (String role : own.roles()) {
      forms.add(own.views().stream().map(u -> views.get(u).form(role)).toList());
    }
    float[] mean = new float[roles];
    float[] room = new float[own.views().size()];
    for (int t = 0; t < count; t++) {
      float strongest = 0;
      for (float p : mixPower[t]) {
        strongest = Math.max(strongest, p);
      }
      float heard = Math.max(LEAST_POWER, HEARD * strongest);
      for (int k = 1; k < mixPower[t].length - 1; k++) {
        int band = bands.ofBin(k);
        if (band < 0 || mixPower[t][k] < heard) {
          continue;
        }
        for (int r = 0; r < roles; r++) {
          mean[r] = agreed(own, forms.get(r), shares, t, k, room);
        }
        for (int o = 0; o < roles; o++) {
          if (mean[o] >= OWNED) {
            own.cells().get(o).set(first + t, k);
            int at = (first + t) / slotFrames(framing) * bands.count() + band;
            own.mix()[o][at] += mixPower[t][k];
            for (int r = 0; r < roles; r++) {
              own.content()[o][r][at] += mean[r] * mixPower[t][k];
            }
          }
        }
      }
    }
  }

  /** What the views that can form a role agree on: the median of its shares. */
  private static float agreed(
      Judged own, List<List<Integer>> forms, float[][][][] shares, int t, int k, float[] room) {
    int n = 0;
    for (int i = 0; i < forms.size(); i++) {
      if (!forms.get(i).isEmpty()) {
        float sum = 0;
        for (int stem : forms.get(i)) {
          sum += shares[own.views().get(i)][stem][t][k];
        }
        // Few views: put in order as they come.
        int at = n++;
        while (at > 0 && room[at - 1] > sum) {
          room[at] = room[at - 1];
          at--;
        }
        room[at] = sum;
      }
    }
    return n == 0 ? 0 : (room[(n - 1) / 2] + room[n / 2]) / 2;
  }
}
