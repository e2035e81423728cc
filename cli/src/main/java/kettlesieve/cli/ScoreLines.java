package kettlesieve.cli;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.media.WholeFile;
import kettlesieve.core.report.ScoresJson;
import kettlesieve.core.roundup.ScoredComparison;
import kettlesieve.core.score.ScoreSheet;
import kettlesieve.core.task.Stop;
import kettlesieve.core.work.ManyComparisons;

/**
 * Scores many comparisons and writes an object a line, in the order in which they were given; one
 * that cannot be used is a line, too. A line is written as soon as all before it are.
 */
final class ScoreLines {
  private final ManyComparisons many;
  private final UnaryOperator<Comparison> change;
  private final TerminalProgress progress;
  private final PrintWriter err;
  private boolean allUsed = true;

  ScoreLines(
      ManyComparisons many,
      UnaryOperator<Comparison> change,
      TerminalProgress progress,
      PrintWriter err) {
    this.many = many;
    this.change = change;
    this.progress = progress;
    this.err = err;
  }

  /**
   * Writes to a file, or prints for {@code -}.
   *
   * @return whether all could be used and written
   */
  boolean write(List<Path> files, String target, PrintWriter out, Outputs outputs) {
    List<ManyComparisons.Named> named =
        files.stream()
            .map(f -> new ManyComparisons.Named(shown(f), f.toAbsolutePath().normalize()))
            .toList();
    boolean written = true;
    if (target.equals("-")) {
      try {
        lines(named, HarmlessText.raw(out));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    } else {
      written =
          outputs.write(
              target,
              file ->
                  WholeFile.write(
                      file,
                      stream -> {
                        Writer writer =
                            new BufferedWriter(
                                new OutputStreamWriter(stream, StandardCharsets.UTF_8));
                        lines(named, writer);
                        writer.flush();
                      }),
              err);
    }
    progress.clear();
    return allUsed && written;
  }

  /** As it was given, so that other machines and folders give the same. */
  private static String shown(Path file) {
    return file.normalize().toString().replace('\\', '/');
  }

  private record Line(String text, List<String> problems) {}

  private void lines(List<ManyComparisons.Named> named, Writer writer) throws IOException {
    Map<Integer, Line> waiting = new HashMap<>();
    int[] next = {0};
    ManyComparisons.Taken<Line> taken =
        new ManyComparisons.Taken<>() {
          @Override
          public Line of(ManyComparisons.Named one, Comparison comparison, ScoreSheet sheet) {
            Path base = one.file().getParent();
            List<String> problems =
                sheet.failed().stream().map(f -> f.label() + ": " + f.reason()).toList();
            return new Line(ScoresJson.line(sheet, comparison, one.shown(), base), problems);
          }

          @Override
          public Line failed(ScoredComparison.Failed failed) {
            return new Line(
                ScoresJson.failedLine(failed.file(), failed.reason()), List.of(failed.reason()));
          }

          @Override
          public void done(int index, Line line) {
            for (String problem : line.problems()) {
              allUsed = false;
              progress.clear();
              String name = named.get(index).shown();
              err.println("kettle: " + (problem.contains(name) ? "" : name + ": ") + problem);
            }
            waiting.put(index, line);
            try {
              while (waiting.containsKey(next[0])) {
                writer.write(waiting.remove(next[0]++).text());
                writer.write('\n');
              }
              writer.flush();
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            }
          }
        };
    try {
      many.sheets(
          named,
          change,
          taken,
          new ManyComparisons.Listener() {
            @Override
            public void at(int done, int of, String shown) {
              progress.at(done + " of " + of + ": " + shown, (double) done / of);
            }
          },
          Stop.NEVER);
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }
}
