package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Path;
import kettlesieve.core.task.Progress;

/** Makes the demo comparisons in a folder, without a window. */
public final class MakeDemo {
  private MakeDemo() {}

  /**
   * @param arguments one folder
   */
  public static void main(String[] arguments) throws IOException {
    for (Demo demo : Demo.ALL) {
      System.out.println(demo.make(Path.of(arguments[0]), Progress.SILENT));
    }
  }
}
