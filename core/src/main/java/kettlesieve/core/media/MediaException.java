package kettlesieve.core.media;

import java.io.Serial;
import java.nio.file.Path;

/** A file that cannot be used. The message names the file, what is wrong and what would mend it. */
public final class MediaException extends Exception {
  @Serial private static final long serialVersionUID = 1;

  private final String file;
  private final String problem;

  /**
   * @param problem what is wrong, in lower case, without the file's name
   * @param remedy what to do, as a sentence
   */
  public MediaException(Path file, String problem, String remedy) {
    this(file, problem, remedy, null);
  }

  /** With what caused it. */
  public MediaException(Path file, String problem, String remedy, Throwable cause) {
    super(file + ": " + problem + ". " + remedy, cause);
    this.file = file.toString();
    this.problem = problem + ". " + remedy;
  }

  /** The file it is about. */
  public String file() {
    return file;
  }

  /** What is wrong and what would mend it, without the file's name. */
  public String problem() {
    return problem;
  }
}
