import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.stage.Stage;

/** The least a window takes: what a start of the program is held against. */
public final class BareWindow extends Application {
  @Override
  public void start(Stage stage) {
    stage.setScene(new Scene(new Label("bare"), 1280, 800));
    stage.show();
    long began = java.lang.management.ManagementFactory.getRuntimeMXBean().getStartTime();
    System.out.println("window shown " + (System.currentTimeMillis() - began) + " ms after start");
    System.out.flush();
    Runtime.getRuntime().halt(0);
  }

  public static void main(String[] words) {
    launch(words);
  }
}
