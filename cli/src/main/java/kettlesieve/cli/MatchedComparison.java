package kettlesieve.cli;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.match.Heard;
import kettlesieve.core.match.MatchException;
import kettlesieve.core.match.Matched;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaFacts;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.Conductor;
import kettlesieve.core.work.PreparedSource;
import kettlesieve.core.work.ResultStore;

/**
 * A comparison that was read, matched and measured.
 *
 * @param sheet readings, scores and places
 * @param source the source
 * @param reference the clean recording at the source's level; null if there is none
 * @param matched versions by id, in the comparison's order
 * @param beside facts of the files of clean recording and true stems, by their paths
 */
record MatchedComparison(
    ScoreSheet sheet,
    Audio source,
    Heard reference,
    Map<String, Heard> matched,
    Map<String, MediaFacts> beside) {
  /**
   * Works on a comparison.
   *
   * @throws MediaException if its source cannot be used
   */
  static MatchedComparison of(Comparison comparison, TerminalProgress progress)
      throws MediaException {
    Map<String, Heard> found = Collections.synchronizedMap(new LinkedHashMap<>());
    Audio[] source = new Audio[1];
    Heard[] clean = new Heard[1];
    Map<String, MediaFacts> beside = new LinkedHashMap<>();
    Conductor.Listener listener =
        new Conductor.Listener() {
          @Override
          public void progress(String what, double share) {
            progress.at(what, share);
          }

          @Override
          public void sourceRead(Recording recording) {
            source[0] = recording.audio();
          }

          @Override
          public void sourceReady(Recording read, Recording reference, PreparedSource onSource) {
            clean[0] = reference(onSource);
            if (reference != null) {
              beside.put(reference.file().toString(), reference.facts());
            }
          }

          @Override
          public void versionMatched(String versionId, Matched matched) {
            found.put(versionId, Heard.of(matched));
          }
        };
    try (Conductor conductor = new Conductor(MediaReader.standard(), ResultStore.standard())) {
      ScoreSheet sheet = conductor.run(comparison, listener, Stop.NEVER).sheet();
      for (MediaRef stem : comparison.trueStems().values()) {
        trueStem(conductor, stem, beside);
      }
      Map<String, Heard> inOrder = new LinkedHashMap<>();
      comparison
          .versions()
          .forEach(
              v -> {
                if (found.containsKey(v.id())) {
                  inOrder.put(v.id(), found.get(v.id()));
                }
              });
      return new MatchedComparison(sheet, source[0], clean[0], inOrder, beside);
    } finally {
      progress.clear();
    }
  }

  private static void trueStem(Conductor conductor, MediaRef stem, Map<String, MediaFacts> beside) {
    try {
      beside.put(stem.path(), conductor.read(stem, Progress.SILENT).facts());
    } catch (MediaException e) {
      // What is wrong with it stands among the warnings; the report names the file alone.
      beside.remove(stem.path());
    }
  }

  private static Heard reference(PreparedSource onSource) {
    try {
      return onSource.matchedReference().map(Heard::of).orElse(null);
    } catch (MatchException e) {
      // What cannot be matched is not heard; that it cannot be is said among the warnings.
      return null;
    }
  }
}
