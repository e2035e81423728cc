package kettlesieve.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "bench", description = "Prints the timing table.")
final class BenchCommand implements Callable<Integer> {
  @Override
  public Integer call() {
    return 0;
  }
}
