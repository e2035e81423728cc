package kettlesieve.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Recording;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.Order;
import kettlesieve.core.rig.Rig;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.Run;
import kettlesieve.core.rig.Setup;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.rig.ToolShelf;

/**
 * Runs tools on comparisons.
 *
 * @param folder where versions are written; null for {@code made-here} beside each comparison
 * @param back whether what was made is to be brought back by the same tool
 * @param shown shows how it goes on
 */
record ToolRuns(
    Path folder, boolean back, TerminalProgress shown, PrintWriter out, PrintWriter err) {
  /** A stand-in, or one of the kept tools, by its name. */
  static RigTool named(List<CommandTool> known, String tool) {
    for (StandIn standIn : StandIns.ALL) {
      if (standIn.id().equals(tool) || standIn.title().equalsIgnoreCase(tool)) {
        return new RigTool.Inside(standIn);
      }
    }
    return new RigTool.Outside(
        ToolShelf.named(known, tool)
            .orElseThrow(
                () ->
                    new UsageException(
                        "there is no tool called '" + tool + "'; 'kettle run --list' shows them")));
  }

  /** Amounts as they were typed, for a tool; null for none. */
  static List<Double> amounts(RigTool chosen, String amounts) {
    if (!chosen.hasAmount()) {
      if (amounts != null) {
        throw new UsageException(chosen.title() + " has no amount; leave --amounts out");
      }
      return List.of(100.0);
    }
    List<Double> list = new ArrayList<>();
    for (String part : (amounts == null ? "100" : amounts).split(",")) {
      try {
        double amount = Double.parseDouble(part.trim());
        if (amount >= 0 && amount <= 100) {
          list.add(amount);
          continue;
        }
      } catch (NumberFormatException e) {
        // Said below, with the words that were given.
      }
      throw new UsageException("--amounts wants numbers from 0 to 100, not '" + part + "'");
    }
    return list;
  }

  /** Makes versions of comparisons and adds them; whether all went well. */
  boolean make(Map<Path, Comparison> comparisons, RigTool chosen, List<Double> wanted)
      throws InterruptedException {
    MediaReader reader = MediaReader.standard();
    TerminalProgress progress = shown.to(err);
    boolean well = true;
    Map<Rig.Ticket, Path> tickets = new LinkedHashMap<>();
    try (Rig rig = new Rig(reader)) {
      for (var each : comparisons.entrySet()) {
        Comparison comparison = each.getValue();
        Path file = each.getKey().toAbsolutePath();
        if (!chosen.does(comparison.job()) || comparison.source() == null) {
          err.println(
              "kettle: "
                  + each.getKey()
                  + ": "
                  + (comparison.source() == null
                      ? "it has no source yet; open it and bring one in"
                      : chosen.title() + " is not for the job " + comparison.job().id()));
          well = false;
          continue;
        }
        try {
          Recording source = reader.read(comparison.source().file(), progress);
          Path into = folder != null ? folder : file.getParent().resolve("made-here");
          for (double amount : wanted) {
            Setup setup = Setup.of(comparison, amount);
            Order order =
                Order.onSource(
                    chosen, source, back ? setup.andBack() : setup, into.toAbsolutePath());
            tickets.put(rig.submit(order, progress, run -> {}), each.getKey());
          }
        } catch (MediaException e) {
          err.println("kettle: " + e.getMessage());
          well = false;
        }
      }
      for (var ticket : tickets.entrySet()) {
        Run run = ticket.getKey().await();
        progress.clear();
        well &= take(run, ticket.getValue(), out, err);
      }
    }
    return well;
  }

  /**
   * Adds a result to its comparison at once, as that stands by then: what is made stays, whatever
   * happens to the rest, and whoever else works on the file.
   */
  private static boolean take(Run run, Path file, PrintWriter out, PrintWriter err) {
    if (run.outcome() != Run.Outcome.DONE) {
      err.println("kettle: " + file + ": " + run.order().label() + ": " + run.problem());
      run.messages().forEach(m -> err.println("    " + m));
      return false;
    }
    try {
      ComparisonFile.update(file, c -> run.addedTo(c).orElseThrow());
    } catch (ComparisonFileException e) {
      err.println("kettle: " + e.getMessage());
      run.files().values().forEach(f -> err.println("    what was made is " + f));
      return false;
    }
    out.printf(
        Locale.ROOT,
        "%s: %s: %.2f s%s%n",
        file,
        run.order().label(),
        run.seconds(),
        run.processorSeconds() == null
            ? ""
            : String.format(Locale.ROOT, ", processor %.2f s", run.processorSeconds()));
    run.files().values().forEach(f -> out.println("    " + f));
    out.flush();
    return true;
  }
}
