package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.rig.ToolShelf;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code run}: makes versions with a tool, over amounts and over several comparisons. */
@Command(
    name = "run",
    description = {
      "Makes versions with a tool and adds them to comparisons.",
      "Behind -- stands a command of one's own, with the places {input}, {output} (or {folder}),"
          + " {amount}, {ratio}, {semitones}; it is run as it stands, never through a shell."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:an input cannot be used, or a run failed; the others are still made"
    })
final class RunCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "0..*",
      paramLabel = "FILE.sieve",
      description = "comparisons, and behind -- a command")
  private List<String> words = new ArrayList<>();

  @Option(names = "--tool", paramLabel = "NAME", description = "a stand-in or a kept tool")
  private String tool;

  @Option(
      names = "--tools",
      paramLabel = "FILE.json",
      description = "tools exported before, in place of those that were kept")
  private Path tools;

  @Option(names = "--amounts", paramLabel = "A,B,…", description = "amounts from 0 to 100")
  private String amounts;

  @Option(names = "--set", paramLabel = "PLACE=VALUE", description = "fills a place of the tool")
  private Map<String, String> settings = new LinkedHashMap<>();

  @Option(names = "--time-limit", paramLabel = "SECONDS", description = "stops a run after this")
  private Double timeLimit;

  @Option(
      names = "--name",
      paramLabel = "NAME",
      description = "what the command behind -- is called")
  private String name;

  @Option(names = "--keep", description = "keeps the command behind -- for the next time")
  private boolean keep;

  @Option(names = "--folder", paramLabel = "DIR", description = "where the versions are written")
  private Path folder;

  @Option(names = "--list", description = "lists the tools there are")
  private boolean list;

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  private List<String> command = List.of();

  /** Takes the words behind {@code --} out of the arguments, before they are parsed. */
  static String[] beforeCommand(String[] arguments, List<String> behind) {
    int at = List.of(arguments).indexOf("--");
    if (at < 0) {
      return arguments;
    }
    behind.addAll(List.of(arguments).subList(at + 1, arguments.length));
    return List.of(arguments).subList(0, at).toArray(String[]::new);
  }

  void setCommand(List<String> behind) {
    command = behind;
  }

  @Override
  public Integer call() throws Exception {
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    Path shelf = tools != null ? tools : UserFolders.state().resolve("tools.json");
    List<CommandTool> known;
    try {
      known = tools == null && !shelf.toFile().exists() ? List.of() : ToolShelf.read(shelf);
    } catch (IOException e) {
      err.println("kettle: " + e.getMessage());
      return UNUSABLE;
    }
    if (list) {
      list(known, out);
      return 0;
    }
    if (words.isEmpty()) {
      throw new UsageException("name at least one comparison. See 'kettle run --help'.");
    }
    Map<Path, Comparison> comparisons = new LinkedHashMap<>();
    for (String word : words) {
      try {
        comparisons.put(Path.of(word), ComparisonFile.load(Path.of(word)));
      } catch (ComparisonFileException e) {
        err.println("kettle: " + e.getMessage());
      } catch (InvalidPathException e) {
        err.println("kettle: no file can be called '" + word + "'");
      }
    }
    if (comparisons.isEmpty()) {
      return UNUSABLE;
    }
    RigTool chosen = chosen(known, comparisons.values().iterator().next());
    if (keep && chosen instanceof RigTool.Outside outside) {
      keep(ToolShelf.with(known, outside.tool()), shelf, err);
    }
    boolean all = comparisons.size() == words.size();
    ToolRuns runs = new ToolRuns(folder, false, shown, out, err);
    return runs.make(comparisons, chosen, ToolRuns.amounts(chosen, amounts)) && all ? 0 : UNUSABLE;
  }

  private static void keep(List<CommandTool> tools, Path shelf, PrintWriter err) {
    try {
      ToolShelf.write(tools, shelf);
    } catch (IOException e) {
      err.println(
          "kettle: the tool could not be kept in " + shelf + ". Check the room on the disk.");
    }
  }

  private static void list(List<CommandTool> known, PrintWriter out) {
    for (StandIn s : StandIns.ALL) {
      String jobs = s.jobs().stream().map(j -> j.id()).sorted().collect(Collectors.joining(", "));
      out.printf("%-24s %-10s %s%n", s.id(), jobs, s.description());
    }
    for (CommandTool t : known) {
      out.printf("%-24s %-10s %s%n", t.name(), t.job().id(), t.line());
    }
    out.flush();
  }

  private RigTool chosen(List<CommandTool> known, Comparison first) {
    if (!command.isEmpty()) {
      if (tool != null) {
        throw new UsageException("give either --tool or a command behind --, not both");
      }
      String title = name != null ? name : Path.of(command.get(0)).getFileName().toString();
      try {
        CommandTool own =
            new CommandTool(title, first.job(), command, settings, 0, 100, timeLimit, null, null);
        return new RigTool.Outside(own);
      } catch (IllegalArgumentException e) {
        throw new UsageException(e.getMessage());
      }
    }
    if (tool == null) {
      throw new UsageException(
          "say which tool: --tool NAME, or a command behind --. 'kettle run --list' shows them.");
    }
    RigTool named = ToolRuns.named(known, tool);
    if (!(named instanceof RigTool.Outside outside)) {
      return named;
    }
    CommandTool filled = outside.tool().withSettings(settings);
    try {
      return new RigTool.Outside(timeLimit == null ? filled : filled.withTimeLimit(timeLimit));
    } catch (IllegalArgumentException e) {
      throw new UsageException(e.getMessage());
    }
  }
}
