package kettlesieve.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/**
 * Writes the pages of the manual and the completion of words for bash, zsh and fish, for a package:
 * all are made of what the parser knows.
 */
@Command(name = "manual", hidden = true, description = "Writes manual pages and completion.")
final class ManualCommand implements Callable<Integer> {
  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "DIR", description = "a folder as /usr/share is")
  private Path folder;

  @Override
  public Integer call() throws IOException {
    CommandLine whole = spec.parent().commandLine();
    String name = whole.getCommandName();
    write("man/man1/" + name + ".1", ManualPage.of(whole));
    for (CommandLine command : ManualPage.commands(whole)) {
      String page = name + "-" + command.getCommandName();
      write("man/man1/" + page + ".1", ManualPage.of(command));
    }
    write("bash-completion/completions/" + name, AutoComplete.bash(name, whole));
    write("zsh/vendor-completions/_" + name, Completion.zsh(whole));
    write("fish/vendor_completions.d/" + name + ".fish", Completion.fish(whole));
    return 0;
  }

  private void write(String name, String text) throws IOException {
    Path file = folder.resolve(name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, text, StandardCharsets.UTF_8);
  }
}
