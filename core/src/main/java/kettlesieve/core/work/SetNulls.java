package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Profile;
import kettlesieve.core.match.Matched;
import kettlesieve.core.match.MatchedStems;
import kettlesieve.core.score.BestSet;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.score.SetNull;
import kettlesieve.core.signal.Db;
import kettlesieve.core.task.Stop;

/**
 * What the best stems from all tools together leave of the mix: whether they still add up, though
 * they come from different hands. Worked out for the best set under every profile, so that choosing
 * another needs no more than a look.
 */
final class SetNulls {
  private static final double LEAST = 1e-15;
  private static final int READ = 1 << 14;

  private SetNulls() {}

  /**
   * @param places the source prepared at each place that is measured
   * @param matched by id of the version, one entry a place
   */
  static List<SetNull> of(
      ScoreSheet sheet,
      List<PreparedExcerpt> places,
      Map<String, List<Matched>> matched,
      Stop stop) {
    Map<Map<String, String>, SetNull> all = new LinkedHashMap<>();
    for (Profile profile : sheet.scoring().profiles()) {
      BestSet.of(sheet.under(profile))
          .map(BestSet::stems)
          .filter(stems -> matched.keySet().containsAll(stems.values()))
          .ifPresent(
              stems ->
                  all.computeIfAbsent(
                      stems, s -> new SetNull(s, leftDb(s, places, matched, stop))));
    }
    return List.copyOf(all.values());
  }

  private static double leftDb(
      Map<String, String> stems,
      List<PreparedExcerpt> places,
      Map<String, List<Matched>> matched,
      Stop stop) {
    double[] sums = new double[2];
    for (int i = 0; i < places.size(); i++) {
      int place = i;
      Audio mix = places.get(i).source().audio();
      List<Audio> parts = new ArrayList<>();
      long from = places.get(i).source().firstFrame();
      stems.forEach(
          (role, id) -> {
            MatchedStems own = (MatchedStems) matched.get(id).get(place);
            Audio there = own.parts().get(role).asChannels(mix.channels());
            parts.add(there.slice(from, from + mix.frames()));
          });
      add(mix, parts, sums, stop);
    }
    return Db.ofPower(Math.max(LEAST, sums[1] / Math.max(sums[0], 1e-30)));
  }

  /** Adds the power of a mix, and of what parts leave of it. */
  private static void add(Audio mix, List<Audio> parts, double[] sums, Stop stop) {
    float[] left = new float[READ];
    float[] part = new float[READ];
    for (int c = 0; c < mix.channels(); c++) {
      for (long at = 0; at < mix.frames(); at += READ) {
        stop.check();
        int n = (int) Math.min(READ, mix.frames() - at);
        mix.read(c, at, left, 0, n);
        for (int i = 0; i < n; i++) {
          sums[0] += (double) left[i] * left[i];
        }
        for (Audio audio : parts) {
          audio.read(c, at, part, 0, n);
          for (int i = 0; i < n; i++) {
            left[i] -= part[i];
          }
        }
        for (int i = 0; i < n; i++) {
          sums[1] += (double) left[i] * left[i];
        }
      }
    }
  }
}
