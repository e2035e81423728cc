package kettlesieve.core.measure.pass;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import kettlesieve.core.ground.Ground;
import kettlesieve.core.ground.PauseGround;
import kettlesieve.core.measure.Analysis;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Pair;

/**
 * One pass over source and version together, which feeds all that is gathered of the cells: a
 * spectrum is transformed once, however many measures want it.
 */
public final class CellPass {
  /** The pass over the ground of the job. */
  public static final Analysis<CellPass> OF = pair -> new CellPass(pair, pair.ground());

  /** The pass over what the pauses tell, whatever the job; the same where that is its ground. */
  public static final Analysis<CellPass> OF_PAUSES = CellPass::ofPauses;

  private static final int ASKED_EVERY = 512;

  private static final List<Gathering> KINDS =
      ServiceLoader.load(Gathering.class, CellPass.class.getClassLoader()).stream()
          .map(ServiceLoader.Provider::get)
          .sorted(Comparator.comparing(g -> g.gives().getName()))
          .toList();

  private final Map<Class<?>, Gatherer> gathered = new HashMap<>();

  private static CellPass ofPauses(Pair pair) throws NotMeasurableException {
    PauseGround pauses = pair.source().pauses();
    Optional<String> problem = pauses.problem();
    if (problem.isPresent()) {
      throw new NotMeasurableException(problem.get());
    }
    return pair.source().ground() == pauses ? pair.shared(OF) : new CellPass(pair, pauses);
  }

  private CellPass(Pair pair, Ground ground) throws NotMeasurableException {
    for (Gathering kind : KINDS) {
      if (kind.wanted(pair, ground)) {
        gathered.put(kind.gives(), kind.begin(pair));
      }
    }
    Gatherer[] all = gathered.values().toArray(Gatherer[]::new);
    PhasesKept phases = PhasesKept.of(pair);
    for (int c = 0; c < pair.channels(); c++) {
      CellFrame cells = new CellFrame(pair, ground, c, phases);
      for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
        if (t % ASKED_EVERY == 0) {
          pair.stop().check();
        }
        cells.moveTo(t);
        for (Gatherer gatherer : all) {
          gatherer.add(cells);
        }
      }
    }
    for (Gatherer gatherer : all) {
      gatherer.finish();
    }
  }

  /**
   * What a gatherer has gathered.
   *
   * @throws IllegalStateException if it was not wanted here: a measure asks for what its job has
   *     not
   */
  public <G extends Gatherer> G get(Class<G> kind) {
    Gatherer own = gathered.get(kind);
    if (own == null) {
      throw new IllegalStateException(kind.getSimpleName() + " is not gathered here");
    }
    return kind.cast(own);
  }
}
