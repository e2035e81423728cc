package kettlesieve.core.ownership;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.ground.CellMask;
import kettlesieve.core.ground.SourceMaterial;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Spectrogram;
import kettlesieve.core.signal.ThirdOctaveBands;
import kettlesieve.core.task.Stop;

/**
 * Tells whose the cells of a mix are, for all versions in one pass over the spectra of the mix and
 * of all stems: by the true stems where they are known, else for each version by the median of what
 * the others make of a cell, else by its own.
 *
 * <p>A view's share of a role in a cell is the power of its stem over the power of all its stems
 * and of what they leave of the mix. A role that is "everything but" another is formed of the
 * others.
 *
 * <p>Who gathers more of the same spectra looks on ({@link Observer}): nothing is transformed
 * twice.
 */
public final class Ownership {
  private static final int SLOTS_A_TILE = 7;

  /** Tiles that are walked over side by side before what onlookers gathered is put together. */
  private static final int TILES_AT_ONCE = 8;

  private final SourceMaterial mix;
  private final Framing framing;
  private final ThirdOctaveBands bands;
  private final List<View> views;
  private final List<Judged> judged;
  private final Stop stop;

  /** One set of stems of the mix. */
  record View(String version, List<String> roles, List<List<Spectrogram>> spectra) {
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

  /** Is shown the spectra of a version, and whose their cells are, on the way. */
  public interface Observer {
    /**
     * Begins to look at some frames; several such looks are under way at a time.
     *
     * @param first frame, the first of a slot
     * @param count of frames
     */
    Look look(int first, int count);
  }

  /** Is shown the spectra of all versions at once. */
  public interface AllObserver {
    /**
     * Begins to look at some frames; several such looks are under way at a time.
     *
     * @param first frame, the first of a slot
     * @param count of frames
     */
    AllLook look(int first, int count);
  }

  /** What is seen of all versions in some frames that follow each other; used by one thread. */
  public interface AllLook {
    /**
     * Frame by frame, in order.
     *
     * @param index of the frame
     * @param t its place in the arrays
     * @param mix coefficients by channel and frame
     * @param views the same by view, in the order of the versions, stem, channel and frame
     */
    void at(int index, int t, float[][][] mix, float[][][][][] views);

    /** After the last; for one look at a time, in the order of their frames. */
    void done();
  }

  /** What an onlooker sees of some frames that follow each other; used by one thread. */
  public interface Look {
    /** Frame by frame, in order. */
    void at(Frame frame);

    /** After the last; for one look at a time, in the order of their frames. */
    void done();
  }

  /**
   * One frame of the mix and of a version's stems. Arrays are used again for the next.
   *
   * @param index of the frame
   * @param mix coefficients of the mix by channel, see {@link Spectrogram#coefficients}
   * @param stems the same of each stem, in the version's order
   * @param mixPower by bin, over all channels
   * @param stemPower by stem and bin
   * @param leftPower by bin, of what the stems leave of the mix
   * @param cells of each of the {@link #owners}, up to this frame
   */
  public record Frame(
      int index,
      float[][] mix,
      float[][][] stems,
      float[] mixPower,
      float[][] stemPower,
      float[] leftPower,
      CellMask[] cells) {}

  /** Whose cells are told by which views. */
  record Judged(
      List<String> versions,
      RoleCells.By by,
      int[] views,
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
   * Prepares to tell whose the cells are, for each version.
   *
   * @param mix the analysed mix
   * @param versions by id
   * @param truth what the mix was made of, by role, at its rate and on its time line; empty if that
   *     is not known
   * @param stop asked now and then
   */
  public static Ownership of(
      SourceMaterial mix, Map<String, MatchedStems> versions, Map<String, Audio> truth, Stop stop) {
    List<View> views = new ArrayList<>();
    versions.forEach((id, v) -> views.add(view(mix, id, v.stems())));
    Set<String> formed = new LinkedHashSet<>();
    versions.values().forEach(v -> formed.addAll(v.formed().keySet()));
    boolean known = truth.size() >= 2;
    if (known) {
      views.add(view(mix, null, truth));
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
    return new Ownership(mix, views, judged, new ThirdOctaveBands(mix.framing()), stop);
  }

  /** Whether some views can form any of the stems of another. */
  private static boolean tells(List<View> views, List<Integer> told, View of) {
    return of.roles().stream()
        .anyMatch(r -> told.stream().anyMatch(u -> !views.get(u).form(r).isEmpty()));
  }

  private static View view(SourceMaterial mix, String version, Map<String, Audio> stems) {
    long from = mix.firstFrame();
    List<List<Spectrogram>> spectra = new ArrayList<>();
    for (Audio stem : stems.values()) {
      Audio there = stem.asChannels(mix.channels()).slice(from, from + mix.audio().frames());
      spectra.add(SourceMaterial.spectra(there));
    }
    return new View(version, List.copyOf(stems.keySet()), spectra);
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
        told.stream().mapToInt(Integer::intValue).toArray(),
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

  /** The roles that may own cells, for a version. */
  public List<String> owners(String version) {
    return judged(version).roles();
  }

  private Judged judged(String version) {
    return judged.stream().filter(j -> j.versions().contains(version)).findFirst().orElseThrow();
  }

  /**
   * Tells it in one walk; to be asked once.
   *
   * @param onlookers by version
   */
  public Map<String, RoleCells> told(Map<String, ? extends Observer> onlookers) {
    return told(onlookers, null);
  }

  /**
   * The same, with one who sees all versions at once.
   *
   * @param all null for nobody
   */
  public Map<String, RoleCells> told(Map<String, ? extends Observer> onlookers, AllObserver all) {
    int tile = SLOTS_A_TILE * slotFrames(framing);
    int tiles = (framing.count() + tile - 1) / tile;
    OwnershipWalk.Plan plan = plan();
    for (int first = 0; first < tiles; first += TILES_AT_ONCE) {
      Stop over = Stop.here();
      // Tiles hold different frames and slots: they write to different places, in any order.
      IntStream.range(first, Math.min(tiles, first + TILES_AT_ONCE))
          .parallel()
          .mapToObj(t -> Stop.over(over, () -> stretch(plan, onlookers, all, t * tile, tile)))
          .toList()
          .forEach(
              seen -> {
                seen.looks().forEach(Look::done);
                if (seen.all() != null) {
                  seen.all().done();
                }
              });
    }
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
      RoleCells whose = new RoleCells(own.by(), cells, content, bands.count());
      own.versions().forEach(id -> told.put(id, whose));
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

  /** Power by bin over all channels of coefficients; the ends of the spectrum are left out. */
  public static void power(float[][] coefficients, float[] to) {
    for (int c = 0; c < coefficients.length; c++) {
      float[] x = coefficients[c];
      if (c == 0) {
        for (int k = 1; k < x.length / 2; k++) {
          to[k] = x[2 * k] * x[2 * k] + x[2 * k + 1] * x[2 * k + 1];
        }
      } else {
        for (int k = 1; k < x.length / 2; k++) {
          to[k] += x[2 * k] * x[2 * k] + x[2 * k + 1] * x[2 * k + 1];
        }
      }
    }
  }

  /** What every stretch of the walk needs. */
  private OwnershipWalk.Plan plan() {
    List<String> roles = judged.stream().flatMap(j -> j.roles().stream()).distinct().toList();
    int[][][] forms = new int[views.size()][roles.size()][];
    for (int u = 0; u < forms.length; u++) {
      for (int r = 0; r < forms[u].length; r++) {
        forms[u][r] =
            views.get(u).form(roles.get(r)).stream().mapToInt(Integer::intValue).toArray();
      }
    }
    int[] told =
        views.stream()
            .mapToInt(v -> v.version() == null ? -1 : judged.indexOf(judged(v.version())))
            .toArray();
    return new OwnershipWalk.Plan(
        framing, bands, SourceMaterial.spectra(mix.audio()), views, judged, roles, forms, told);
  }

  private record Seen(List<Look> looks, AllLook all) {}

  private Seen stretch(
      OwnershipWalk.Plan plan,
      Map<String, ? extends Observer> onlookers,
      AllObserver all,
      int first,
      int frames) {
    stop.check();
    int count = Math.min(frames, framing.count() - first);
    List<Look> looks = new ArrayList<>();
    for (View view : views) {
      Observer onlooker = view.version() == null ? null : onlookers.get(view.version());
      looks.add(onlooker == null ? null : onlooker.look(first, count));
    }
    AllLook whole = all == null ? null : all.look(first, count);
    new OwnershipWalk(plan, looks, whole, first, count).walk();
    return new Seen(looks.stream().filter(Objects::nonNull).toList(), whole);
  }
}
