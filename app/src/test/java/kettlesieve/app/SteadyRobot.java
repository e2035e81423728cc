package kettlesieve.app;

import java.util.List;
import java.util.function.Predicate;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.stage.Window;
import org.hamcrest.Matcher;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.ApplicationExtension;
import org.testfx.service.query.NodeQuery;
import org.testfx.util.WaitForAsyncUtils;

/**
 * Looks for nodes on the interface thread, in windows that are laid out. A search from the test's
 * own thread may come while what was just shown is being put into the window, and find a node that
 * is in no scene yet.
 */
final class SteadyRobot extends FxRobot {
  private static final int LONGEST_MS = 20_000;

  /** Gives tests this robot where they ask for one. */
  static final class Extension extends ApplicationExtension {
    @Override
    public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
      return new SteadyRobot();
    }
  }

  @Override
  public NodeQuery lookup(String query) {
    return laidOut(() -> super.lookup(query));
  }

  @Override
  public <T extends Node> NodeQuery lookup(Matcher<T> matcher) {
    return laidOut(() -> super.lookup(matcher));
  }

  @Override
  public <T extends Node> NodeQuery lookup(Predicate<T> predicate) {
    return laidOut(() -> super.lookup(predicate));
  }

  private static NodeQuery laidOut(Supplier<NodeQuery> search) {
    if (Platform.isFxApplicationThread()) {
      return search.get();
    }
    return WaitForAsyncUtils.waitForAsyncFx(
        LONGEST_MS,
        () -> {
          for (Window window : List.copyOf(Window.getWindows())) {
            Scene scene = window.getScene();
            if (scene != null && scene.getRoot() != null) {
              scene.getRoot().applyCss();
              scene.getRoot().layout();
            }
          }
          return search.get();
        });
  }
}
