package kettlesieve.core.work;

import java.io.IOException;
import java.io.InputStream;
import java.util.Properties;

/** The program's own number, which stands in one place, its build, and the state of its code. */
public final class ProgramVersion {
  /** Such as 0.1.0. */
  public static final String NUMBER = number();

  private ProgramVersion() {}

  private static String number() {
    Properties values = new Properties();
    try (InputStream in =
        ProgramVersion.class.getResourceAsStream("/kettlesieve/core/version.properties")) {
      values.load(in);
    } catch (IOException e) {
      throw new IllegalStateException("the program does not know its own version", e);
    }
    return values.getProperty("version");
  }

  /** Name, number and state of the code, as it stands in what leaves the program. */
  public static String words() {
    return "Kettle Sieve " + NUMBER + ", state " + CodeVersion.OWN.substring(0, 12);
  }
}
