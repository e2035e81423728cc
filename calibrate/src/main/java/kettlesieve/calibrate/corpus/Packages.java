package kettlesieve.calibrate.corpus;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.Program;

/** Debian packages, unpacked in a folder of ours: nothing is installed. */
public final class Packages {
  private final Path folder;

  /**
   * @param folder where they are kept between runs
   */
  public Packages(Path folder) {
    this.folder = folder;
  }

  /**
   * Where a package's files lie, fetched and unpacked if it was not yet.
   *
   * @throws CalibrationException if it cannot be had
   */
  public synchronized Path of(String name) throws CalibrationException {
    Path unpacked = folder.resolve(name);
    if (Files.isDirectory(unpacked)) {
      return unpacked;
    }
    try {
      Files.createDirectories(folder);
      if (archive(name) == null) {
        Program.run(folder, List.of("apt-get", "download", name));
      }
      Path archive = archive(name);
      if (archive == null) {
        throw new CalibrationException(
            "the package "
                + name
                + " could not be fetched; put its .deb file into "
                + folder
                + " and start again");
      }
      Path half = folder.resolve(name + ".part");
      Program.run(folder, List.of("dpkg-deb", "-x", archive.toString(), half.toString()));
      Files.move(half, unpacked);
      return unpacked;
    } catch (IOException e) {
      throw new CalibrationException(folder + " cannot be written: " + e.getMessage(), e);
    }
  }

  private Path archive(String name) throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(f -> f.getFileName().toString().startsWith(name + "_"))
          .filter(f -> f.toString().endsWith(".deb"))
          .findFirst()
          .orElse(null);
    }
  }

  /**
   * Files of a package in the order of their names.
   *
   * @param pattern of the path in the package
   * @throws CalibrationException if there are none
   */
  public List<Path> files(String name, String pattern) throws CalibrationException {
    Path root = of(name);
    Pattern wanted = Pattern.compile(pattern);
    try (Stream<Path> all = Files.walk(root)) {
      List<Path> found =
          all.filter(Files::isRegularFile)
              .filter(f -> wanted.matcher(root.relativize(f).toString()).matches())
              .sorted()
              .toList();
      if (found.isEmpty()) {
        throw new CalibrationException("the package " + name + " holds no file like " + pattern);
      }
      return found;
    } catch (IOException e) {
      throw new CalibrationException(root + " cannot be read: " + e.getMessage(), e);
    }
  }

  /**
   * One file of a package; what follows an exclamation mark lies within a ZIP archive.
   *
   * @throws CalibrationException if it is not there
   */
  public Path file(String name, String path) throws CalibrationException {
    int within = path.indexOf('!');
    Path outer = of(name).resolve(within < 0 ? path : path.substring(0, within));
    if (!Files.isRegularFile(outer)) {
      throw new CalibrationException("the package " + name + " does not hold " + path);
    }
    return within < 0 ? outer : unzipped(outer, path.substring(within + 1));
  }

  private Path unzipped(Path archive, String entry) throws CalibrationException {
    Path file = folder.resolve("from-archives").resolve(entry.replace('/', '-'));
    if (Files.exists(file)) {
      return file;
    }
    try (ZipFile zip = new ZipFile(archive.toFile())) {
      ZipEntry found = zip.getEntry(entry);
      if (found == null) {
        throw new CalibrationException(archive + " does not hold " + entry);
      }
      Files.createDirectories(file.getParent());
      try (InputStream in = zip.getInputStream(found)) {
        Files.copy(in, file);
      }
      return file;
    } catch (IOException e) {
      throw new CalibrationException(archive + " cannot be read: " + e.getMessage(), e);
    }
  }
}
