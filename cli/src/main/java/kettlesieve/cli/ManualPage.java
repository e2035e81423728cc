package kettlesieve.cli;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import kettlesieve.core.work.ProgramVersion;
import picocli.CommandLine;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/** A page of the manual, in the macros of man(7). */
final class ManualPage {
  private final StringBuilder page = new StringBuilder();

  private ManualPage() {}

  /** The page of the program, or of one of its commands. */
  static String of(CommandLine command) {
    return new ManualPage().write(command);
  }

  /** The commands that people are told of, by name. */
  static List<CommandLine> commands(CommandLine whole) {
    Map<String, CommandLine> all = new TreeMap<>(whole.getSubcommands());
    all.values().removeIf(c -> c.getCommandSpec().usageMessage().hidden());
    return List.copyOf(all.values());
  }

  private String write(CommandLine command) {
    CommandSpec spec = command.getCommandSpec();
    String name = spec.qualifiedName("-");
    String[] about = spec.usageMessage().description();
    line(
        ".TH \""
            + name.toUpperCase(java.util.Locale.ROOT)
            + "\" 1 \"\" \"Kettle Sieve "
            + ProgramVersion.NUMBER
            + "\"");
    section("NAME");
    line(plain(name) + " \\- " + plain(String.join(" ", about)));
    section("SYNOPSIS");
    line(".nf");
    if (spec.parent() == null) {
      line(plain(name) + " [FILE.sieve]");
      line(plain(name) + " COMMAND ...");
    } else {
      line(plain(command.getHelp().synopsis(0).stripTrailing()));
    }
    line(".fi");
    if (spec.parent() == null) {
      section("DESCRIPTION");
      line("Without a command the window opens, on a comparison if one is named.");
      section("COMMANDS");
      item("demo", "opens the window on the demo comparisons");
      for (CommandLine each : commands(command)) {
        item(
            each.getCommandName(),
            String.join(" ", each.getCommandSpec().usageMessage().description())
                + " See "
                + each.getCommandSpec().qualifiedName("-")
                + "(1).");
      }
    }
    arguments(spec);
    Map<String, String> status = spec.usageMessage().exitCodeList();
    if (!status.isEmpty()) {
      section("EXIT STATUS");
      status.forEach(this::item);
    }
    section("FILES");
    item("~/.local/state/kettle-sieve", "settings, tools, the demo (XDG_STATE_HOME)");
    item("~/.cache/kettle-sieve", "what can be made again (XDG_CACHE_HOME)");
    return page.toString();
  }

  private void arguments(CommandSpec spec) {
    List<OptionSpec> options = spec.options().stream().filter(o -> !o.hidden()).toList();
    if (options.isEmpty() && spec.positionalParameters().isEmpty()) {
      return;
    }
    section("OPTIONS");
    for (PositionalParamSpec p : spec.positionalParameters()) {
      if (!p.hidden()) {
        item(p.paramLabel(), text(p));
      }
    }
    for (OptionSpec o : options) {
      boolean word = o.arity().max() > 0;
      item(String.join(", ", o.names()) + (word ? " " + o.paramLabel() : ""), text(o));
    }
  }

  private static String text(ArgSpec arg) {
    return String.join(" ", arg.description());
  }

  private void section(String title) {
    line(".SH " + title);
  }

  private void item(String what, String text) {
    line(".TP");
    line("\\fB" + plain(what) + "\\fR");
    line(plain(text));
  }

  /** What the macros would take for theirs is written so that it stays text. */
  private static String plain(String text) {
    String safe = text.replace("\\", "\\e").replace("-", "\\-").replace("%n", " ");
    return safe.replaceAll("(?m)^([.'])", "\\\\&$1");
  }

  private void line(String text) {
    page.append(text).append('\n');
  }
}
