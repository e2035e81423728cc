package kettlesieve.core.media;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.charset.StandardCharsets;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFileAttributeView;

/**
 * Writes files that appear whole or not at all: beside, under a name that nobody can guess, then
 * moved. What stood there before is unharmed if that fails; a link keeps pointing where it did, and
 * a file keeps its permissions.
 */
public final class WholeFile {
  /** What a file is to hold. */
  public interface Content {
    /** Writes all of it. */
    void writeTo(OutputStream out) throws IOException;
  }

  private static final int MOST_LINKS = 16;

  private WholeFile() {}

  /**
   * Writes a text in UTF-8.
   *
   * @throws IOException if it cannot be written
   */
  public static void write(Path file, String text) throws IOException {
    write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  /**
   * Writes a file. What is no regular file, such as a device, is written to as it is.
   *
   * @throws IOException if it cannot be written, for instance because the disk is full
   */
  public static void write(Path file, Content content) throws IOException {
    if (Files.exists(file) && !Files.isRegularFile(file) && !Files.isDirectory(file)) {
      try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
        content.writeTo(out);
      }
      return;
    }
    Path target = resolved(file.toAbsolutePath());
    Unfinished.Part part = Unfinished.file(target.getParent());
    try {
      OutputStream out = new BufferedOutputStream(Channels.newOutputStream(part.out()), 1 << 16);
      content.writeTo(out);
      out.flush();
      part.out().force(true);
      keepPermissions(target, part.file());
      try {
        Files.move(part.file(), target, StandardCopyOption.ATOMIC_MOVE);
      } catch (AtomicMoveNotSupportedException e) {
        Files.move(part.file(), target, StandardCopyOption.REPLACE_EXISTING);
      }
    } finally {
      Unfinished.done(part.file());
    }
  }

  /**
   * Gives a finished file its name, if nothing has that name yet.
   *
   * @param finished on the same disk; gone afterwards
   * @throws FileAlreadyExistsException if the name is taken
   * @throws IOException if it cannot be moved
   */
  public static void place(Path finished, Path name) throws IOException {
    try {
      // A link is made in one step or not at all, also beside another program.
      Files.createLink(name, finished);
      Files.delete(finished);
    } catch (FileAlreadyExistsException e) {
      throw e;
    } catch (IOException | UnsupportedOperationException e) {
      Files.move(finished, name);
    }
  }

  private static Path resolved(Path file) throws IOException {
    Path target = file;
    for (int i = 0; i < MOST_LINKS && Files.isSymbolicLink(target); i++) {
      target = target.resolveSibling(Files.readSymbolicLink(target)).normalize();
    }
    return target;
  }

  private static void keepPermissions(Path from, Path to) throws IOException {
    var old =
        Files.getFileAttributeView(from, PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
    if (old != null && Files.exists(from)) {
      Files.getFileAttributeView(to, PosixFileAttributeView.class)
          .setPermissions(old.readAttributes().permissions());
    }
  }
}
