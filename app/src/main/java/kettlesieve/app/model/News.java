package kettlesieve.app.model;

import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/**
 * The latest news for the person and of what kind it is. What is merely set is a problem: nothing
 * that goes wrong can look like a success by mistake. Interface thread.
 */
public final class News {
  /** Kinds of news, each with a look of its own. */
  public enum Kind {
    /** Something cannot be done, or went wrong. */
    PROBLEM,
    /** Something takes a while. */
    UNDER_WAY,
    /** Something was done. */
    DONE
  }

  private final ReadOnlyObjectWrapper<Kind> kind = new ReadOnlyObjectWrapper<>(Kind.PROBLEM);
  private final StringProperty text =
      new SimpleStringProperty("") {
        @Override
        public void set(String value) {
          kind.set(Kind.PROBLEM);
          super.set(value);
        }
      };

  News() {}

  /** The text; empty for none. */
  public StringProperty textProperty() {
    return text;
  }

  /** What kind of news the text is. */
  public ReadOnlyObjectProperty<Kind> kindProperty() {
    return kind.getReadOnlyProperty();
  }

  /** Says that something was done. */
  public void done(String words) {
    text.set(words);
    kind.set(Kind.DONE);
  }

  /** Says that something takes a while. */
  public void underWay(String words) {
    text.set(words);
    kind.set(Kind.UNDER_WAY);
  }
}
