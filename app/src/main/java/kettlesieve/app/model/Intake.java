package kettlesieve.app.model;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.FileNames;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.comparison.Stem;
import kettlesieve.core.comparison.Version;

/** How files become parts of a comparison. */
final class Intake {
  private Intake() {}

  /** Adds sorted files. Stems of one tool, setting and amount go into one version. */
  static Comparison add(Comparison comparison, List<FileNames.Proposal> proposals) {
    Comparison c = comparison;
    for (FileNames.Proposal p : proposals) {
      MediaRef media = MediaRef.of(p.file());
      c =
          switch (p.kind()) {
            case SOURCE -> c.withSource(media);
            case REFERENCE -> c.withReference(media);
            case TRUE_STEM -> c.withTrueStem(roleOf(p), media);
            case LEAVE -> c;
            case VERSION -> c.job().inStems() ? withStem(c, p, media) : c.plus(version(c, p));
          };
    }
    return c;
  }

  private static String roleOf(FileNames.Proposal p) {
    return p.role() == null || p.role().isBlank() ? "other" : p.role().trim();
  }

  private static Version version(Comparison c, FileNames.Proposal p) {
    return described(Version.of(c.freshId(), p.label(), MediaRef.of(p.file())), p);
  }

  private static Version described(Version v, FileNames.Proposal p) {
    return v.withTool(p.tool()).withSetting(p.setting()).withAmount(p.amount());
  }

  private static Comparison withStem(Comparison c, FileNames.Proposal p, MediaRef media) {
    String role = roleOf(p);
    for (Version v : c.versions()) {
      boolean same =
          v.tool().equals(p.tool())
              && v.setting().equals(p.setting())
              && java.util.Objects.equals(v.amount(), p.amount());
      if (same && !v.stems().isEmpty() && !v.stems().containsKey(role)) {
        return c.withVersion(v.withStem(role, Stem.of(media)));
      }
    }
    Version fresh = Version.ofStems(c.freshId(), p.label(), Map.of(role, Stem.of(media)));
    return c.plus(described(fresh, p));
  }

  /** The same files under another kind of job. */
  static Comparison asJob(Comparison comparison, Job job) {
    boolean before = comparison.job().inStems();
    boolean after = job.inStems();
    Comparison c = comparison.withJob(job);
    if (job == Job.STRETCH && c.ratio() == null) {
      c = c.withRatio(1.0);
    }
    if (job == Job.PITCH && c.semitones() == null) {
      c = c.withSemitones(0.0);
    }
    if (before == after) {
      return c;
    }
    Comparison empty = c.withVersions(List.of());
    if (after) {
      List<Version> list = new ArrayList<>();
      for (Version v : c.versions()) {
        String role = Roles.guess(FileNames.stem(v.media().file())).orElse("other");
        list.add(v.withStems(Map.of(role, Stem.of(v.media()))));
      }
      return empty.withVersions(list);
    }
    Comparison flat = empty;
    for (Version v : c.versions()) {
      for (var stem : new LinkedHashMap<>(v.stems()).entrySet()) {
        String label = v.stems().size() == 1 ? v.label() : v.label() + " " + stem.getKey();
        flat =
            flat.plus(v.withMedia(stem.getValue().media()).withId(flat.freshId()).withLabel(label));
      }
    }
    return flat;
  }
}
