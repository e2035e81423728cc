package kettlesieve.core.measure.stems;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import kettlesieve.core.comparison.Roles;
import kettlesieve.core.measure.StemsTogether;
import kettlesieve.core.measure.pass.StemSums;

/**
 * What the stems of all tools are off, told from how far they lie from each other ({@link
 * RoleErrors}, by a {@link ThreeCorneredHat}), and what of that is leakage of another role or
 * lacking of the own ({@link LeakSplit}). A tool is never measured against what it gave itself.
 */
final class StemErrors {
  /** 80 dB under the mix. */
  private static final double SILENT = 1e-8;

  /** The sums, which are put in when the cells were told. */
  static final StemsTogether.OfAll<StemSums> SUMS =
      all -> {
        throw new IllegalStateException("stems are seen, all at once, before measuring");
      };

  /** Of all tools that are measured beside each other. */
  static final StemsTogether.OfAll<StemErrors> OF =
      all -> {
        StemSums every = all.shared(SUMS);
        int[] tools = IntStream.range(0, all.tools().size()).toArray();
        return new StemErrors(tools.length == every.tools() ? every : every.of(tools));
      };

  private final StemParts parts;
  private final StemSums sums;
  private final Set<String> plain = new LinkedHashSet<>();
  private final Map<String, RoleErrors> roles = new LinkedHashMap<>();

  StemErrors(StemSums sums) {
    this.parts = new StemParts(sums);
    this.sums = sums;
    Set<String> all = new LinkedHashSet<>();
    for (int t = 0; t < sums.tools(); t++) {
      all.addAll(sums.roles(t));
    }
    all.stream().filter(r -> !Roles.composite(r)).forEach(plain::add);
    for (String role : all) {
      int[] tools =
          IntStream.range(0, sums.tools())
              .filter(t -> sums.signal(t, role) >= 0 && !silent(t, role))
              .toArray();
      if (tools.length >= 2) {
        roles.put(role, new RoleErrors(this, parts, role, tools));
      }
    }
    LeakSplit split = new LeakSplit(parts);
    for (RoleErrors own : roles.values()) {
      split.split(
          own,
          roles.values().stream()
              .filter(r -> r == own || plain.contains(r.role) && apart(own.role, r.role))
              .toList());
    }
  }

  /** Whether there is nothing in a tool's stem, to speak of. */
  boolean silent(int tool, String role) {
    int signal = sums.signal(tool, role);
    return signal >= 0 && parts.silent(signal, SILENT);
  }

  /** Of a role that two tools or more give; null for others. */
  RoleErrors role(String role) {
    return roles.get(role);
  }

  /** The signals of a tool's own stems. */
  List<Integer> stems(int tool) {
    List<Integer> stems = new ArrayList<>();
    for (String role : sums.roles(tool)) {
      if (!Roles.composite(role)) {
        stems.add(sums.signal(tool, role));
      }
    }
    return stems;
  }

  /** Whether a tool gives all roles there are, so that its stems should add up to the mix. */
  boolean whole(int tool) {
    return sums.roles(tool).containsAll(plain);
  }

  /** Whether a plain role is no part of another. */
  static boolean apart(String role, String plain) {
    List<String> without = Roles.without(role);
    return without.isEmpty() ? !Roles.parts(role).contains(plain) : without.contains(plain);
  }
}
