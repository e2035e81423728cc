package kettlesieve.cli;

import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Model.OptionSpec;

/** Completion of commands and options for shells that the parser's library has none for. */
final class Completion {
  private Completion() {}

  private static String about(CommandLine command) {
    return String.join(" ", command.getCommandSpec().usageMessage().description());
  }

  private static List<OptionSpec> options(CommandLine command) {
    return command.getCommandSpec().options().stream().filter(o -> !o.hidden()).toList();
  }

  /** For zsh. */
  static String zsh(CommandLine whole) {
    String name = whole.getCommandName();
    StringBuilder text = new StringBuilder("#compdef " + name + "\n\n_" + name + "() {\n");
    text.append("  local -a commands\n  commands=(\n");
    for (CommandLine c : ManualPage.commands(whole)) {
      text.append(
          "    '" + c.getCommandName() + ":" + quoted(about(c)).replace(":", "\\:") + "'\n");
    }
    text.append("  )\n  if (( CURRENT == 2 )); then\n    _describe command commands\n");
    text.append("    _files -g '*.sieve'\n    return\n  fi\n");
    text.append(
        "  local command=$words[2]\n  shift words\n  (( CURRENT-- ))\n  case $command in\n");
    for (CommandLine c : ManualPage.commands(whole)) {
      text.append("    " + c.getCommandName() + ")\n      _arguments");
      for (OptionSpec o : options(c)) {
        String what = quoted(String.join(" ", o.description())).replaceAll("([\\[\\]:])", "\\\\$1");
        boolean word = o.arity().max() > 0;
        String repeated = o.isMultiValue() ? "*" : "";
        for (String n : o.names()) {
          text.append(" \\\n        '" + repeated + n + "[" + what + "]");
          text.append(word ? ":" + quoted(o.paramLabel()).replace(":", "\\:") + ":_files'" : "'");
        }
      }
      text.append(" \\\n        '*:file:_files'\n      ;;\n");
    }
    return text.append("  esac\n}\n\n_" + name + " \"$@\"\n").toString();
  }

  /** For fish. */
  static String fish(CommandLine whole) {
    String name = whole.getCommandName();
    StringBuilder text = new StringBuilder();
    for (CommandLine c : ManualPage.commands(whole)) {
      text.append("complete -c " + name + " -n __fish_use_subcommand -a " + c.getCommandName());
      text.append(" -d '" + fishQuoted(about(c)) + "'\n");
      for (OptionSpec o : options(c)) {
        for (String n : o.names()) {
          text.append("complete -c " + name);
          text.append(" -n '__fish_seen_subcommand_from " + c.getCommandName() + "'");
          text.append(n.startsWith("--") ? " -l " + n.substring(2) : " -s " + n.substring(1));
          text.append(o.arity().max() > 0 ? " -r" : "");
          text.append(" -d '" + fishQuoted(String.join(" ", o.description())) + "'\n");
        }
      }
    }
    return text.toString();
  }

  private static String quoted(String text) {
    return text.replace("'", "'\\''").replace("%n", " ");
  }

  private static String fishQuoted(String text) {
    return text.replace("\\", "\\\\").replace("'", "\\'").replace("%n", " ");
  }
}
