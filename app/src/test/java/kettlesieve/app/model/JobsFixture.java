package kettlesieve.app.model;

import java.nio.file.Path;
import kettlesieve.core.task.Progress;
import kettlesieve.demo.Demo;
import org.junit.jupiter.api.BeforeAll;

/** A workspace on the demo comparisons of the other kinds of job, without a window. */
abstract class JobsFixture extends WorkspaceFixture {
  @BeforeAll
  static void makeDemos() throws Exception {
    for (Demo demo : Demo.ALL.subList(2, 6)) {
      demo.make(demos, Progress.SILENT);
    }
  }

  static Path sieve(String name) {
    return demos.resolve(name).resolve(name + ".sieve");
  }

  void open(Path file, int entries) {
    onUi(() -> workspace.open(file));
    awaitSheet(entries);
  }
}
