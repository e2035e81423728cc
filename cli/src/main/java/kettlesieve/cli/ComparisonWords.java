package kettlesieve.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;
import picocli.CommandLine.Option;

/** The words that describe a comparison on the command line. */
final class ComparisonWords {
  @Option(
      names = "--job",
      paramLabel = "JOB",
      description = "denoise, dereverb, declip, stems, stretch or pitch")
  private String job;

  @Option(names = "--source", paramLabel = "FILE", description = "the unprocessed recording")
  private Path source;

  @Option(names = "--version", paramLabel = "LABEL=FILE", description = "a processed version")
  private List<String> versions = new ArrayList<>();

  @Option(names = "--stem", paramLabel = "LABEL/ROLE=FILE", description = "a stem of a version")
  private List<String> stems = new ArrayList<>();

  @Option(
      names = "--reference",
      paramLabel = "[ROLE=]FILE",
      description = "the clean recording; for stems the true stem of a role")
  private List<String> references = new ArrayList<>();

  @Option(names = "--ratio", paramLabel = "R", description = "target length over old length")
  private Double ratio;

  @Option(names = "--semitones", paramLabel = "S", description = "target shift")
  private Double semitones;

  /** Whether any of them was said that only goes without a comparison file. */
  boolean given() {
    return job != null
        || source != null
        || !versions.isEmpty()
        || !stems.isEmpty()
        || !references.isEmpty();
  }

  /** The comparison that the words describe. */
  Comparison comparison() {
    if (job == null || source == null) {
      throw new UsageException(
          "say what to compare: a comparison file, or --job, --source and --version."
              + " See --help.");
    }
    Comparison comparison =
        Comparison.empty("", parsedJob()).withSource(asGiven(source.toString()));
    boolean inStems = comparison.job().inStems();
    if (inStems && !versions.isEmpty()) {
      throw new UsageException("the job stems takes --stem LABEL/ROLE=FILE in place of --version");
    }
    if (!inStems && !stems.isEmpty()) {
      throw new UsageException("--stem goes with --job stems");
    }
    if ((inStems ? stems : versions).isEmpty()) {
      throw new UsageException(
          inStems
              ? "name at least one stem: --stem LABEL/ROLE=FILE"
              : "name at least one version: --version LABEL=FILE");
    }
    comparison = withReferences(comparison);
    return inStems ? withStems(comparison) : withVersions(comparison);
  }

  private Comparison withReferences(Comparison comparison) {
    if (comparison.job().inStems()) {
      Comparison changed = comparison;
      for (String words : references) {
        String[] parts = parted(words, "--reference wants ROLE=FILE for stems");
        changed = changed.withTrueStem(parts[0], asGiven(parts[1]));
      }
      return changed;
    }
    if (references.size() > 1) {
      throw new UsageException("one --reference is enough here");
    }
    return references.isEmpty() ? comparison : comparison.withReference(asGiven(references.get(0)));
  }

  private Comparison withVersions(Comparison start) {
    Comparison comparison = start;
    List<String> labels = new ArrayList<>();
    for (String words : versions) {
      String[] parts = parted(words, "--version wants LABEL=FILE");
      if (labels.contains(parts[0])) {
        throw new UsageException("two versions are both called '" + parts[0] + "'");
      }
      labels.add(parts[0]);
      comparison = comparison.plus(Version.of(comparison.freshId(), parts[0], asGiven(parts[1])));
    }
    return comparison;
  }

  private Comparison withStems(Comparison start) {
    Map<String, Map<String, Stem>> byLabel = new LinkedHashMap<>();
    for (String words : stems) {
      String[] parts = parted(words, "--stem wants LABEL/ROLE=FILE");
      int slash = parts[0].lastIndexOf('/');
      if (slash < 1 || slash == parts[0].length() - 1) {
        throw new UsageException("--stem wants LABEL/ROLE=FILE, not '" + words + "'");
      }
      String label = parts[0].substring(0, slash);
      String role = parts[0].substring(slash + 1);
      Stem former =
          byLabel
              .computeIfAbsent(label, l -> new LinkedHashMap<>())
              .putIfAbsent(role, Stem.of(asGiven(parts[1])));
      if (former != null) {
        throw new UsageException("'" + label + "' has two stems for the role '" + role + "'");
      }
    }
    Comparison comparison = start;
    for (var version : byLabel.entrySet()) {
      comparison =
          comparison.plus(
              Version.ofStems(comparison.freshId(), version.getKey(), version.getValue()));
    }
    return comparison;
  }

  private static String[] parted(String words, String wish) {
    int equals = words.indexOf('=');
    if (equals < 1 || equals == words.length() - 1) {
      throw new UsageException(wish + ", not '" + words + "'");
    }
    return new String[] {words.substring(0, equals), words.substring(equals + 1)};
  }

  /** A file by the words it was given in: they come back in the JSON. */
  private static MediaRef asGiven(String path) {
    return new MediaRef(path, null);
  }

  private Job parsedJob() {
    try {
      return Job.of(job);
    } catch (IllegalArgumentException e) {
      throw new UsageException(
          "--job is one of "
              + List.of(Job.values()).stream().map(Job::id).collect(Collectors.joining(", ")));
    }
  }

  /** With the target that was asked for. */
  Comparison withTarget(Comparison comparison) {
    if (ratio != null && comparison.job() != Job.STRETCH
        || semitones != null && comparison.job() != Job.PITCH) {
      throw new UsageException("--ratio goes with --job stretch, --semitones with --job pitch");
    }
    try {
      Comparison changed = ratio == null ? comparison : comparison.withRatio(ratio);
      return semitones == null ? changed : changed.withSemitones(semitones);
    } catch (IllegalArgumentException e) {
      throw new UsageException(e.getMessage());
    }
  }
}
