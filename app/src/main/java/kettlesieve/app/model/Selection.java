package kettlesieve.app.model;

import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import kettlesieve.core.measure.Spot;

/** What the person is looking at. */
public final class Selection {
  private final StringProperty version = new SimpleStringProperty();
  private final StringProperty measure = new SimpleStringProperty();
  private final ObjectProperty<Spot> spot = new SimpleObjectProperty<>();

  /** Id of the version; null for none. */
  public StringProperty versionProperty() {
    return version;
  }

  /** Id of the measure; null for none. */
  public StringProperty measureProperty() {
    return measure;
  }

  /** The spot being heard; null for none. */
  public ObjectProperty<Spot> spotProperty() {
    return spot;
  }

  /** Selects a reading of a version. */
  public void reading(String versionId, String measureId) {
    spot.set(null);
    version.set(versionId);
    measure.set(measureId);
  }

  void clear() {
    spot.set(null);
    version.set(null);
    measure.set(null);
  }
}
