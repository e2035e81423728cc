package kettlesieve.app.model;

import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleObjectProperty;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Spot;

/** What the person is looking at: a reading by its address, and a spot of it. */
public final class Selection {
  private final ObjectProperty<Address> address = new SimpleObjectProperty<>();
  private final ReadOnlyStringWrapper version = new ReadOnlyStringWrapper();
  private final ReadOnlyStringWrapper measure = new ReadOnlyStringWrapper();
  private final ObjectProperty<Spot> spot = new SimpleObjectProperty<>();

  Selection() {
    address.addListener(
        (o, was, is) -> {
          version.set(is == null || is.version().isEmpty() ? null : is.version());
          measure.set(is == null || is.measure().isEmpty() ? null : is.measure());
        });
  }

  /** The address of the reading; null for none. */
  public ObjectProperty<Address> addressProperty() {
    return address;
  }

  /** Id of its version; null for none. */
  public ReadOnlyStringProperty versionProperty() {
    return version.getReadOnlyProperty();
  }

  /** Id of its measure; null for none. */
  public ReadOnlyStringProperty measureProperty() {
    return measure.getReadOnlyProperty();
  }

  /** The spot being heard; null for none. */
  public ObjectProperty<Spot> spotProperty() {
    return spot;
  }

  /** Selects a reading. */
  public void reading(Address of) {
    spot.set(null);
    address.set(of);
  }

  /** Selects a reading of a version as a whole. */
  public void reading(String versionId, String measureId) {
    reading(Address.of(versionId, measureId));
  }

  /** Selects the same reading of another version. */
  public void version(String versionId) {
    Address now = address.get();
    reading(
        now == null
            ? Address.of(versionId, "")
            : new Address(versionId, now.part(), now.measure(), now.against()));
  }

  void clear() {
    spot.set(null);
    address.set(null);
  }
}
