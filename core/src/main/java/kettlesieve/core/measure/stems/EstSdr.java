package kettlesieve.core.measure.stems;

import com.google.auto.service.AutoService;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.measure.Declaration;
import kettlesieve.core.measure.Detail;
import kettlesieve.core.measure.Estimate;
import kettlesieve.core.measure.Evidence;
import kettlesieve.core.measure.Figure;
import kettlesieve.core.measure.Limit;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.NotMeasurableException;
import kettlesieve.core.measure.Reading;
import kettlesieve.core.measure.SetMeasure;
import kettlesieve.core.measure.StemSet;

/** How far a stem is off, told without its true stem. */
@AutoService(Measure.class)
public final class EstSdr implements SetMeasure {
  private static final Declaration DECLARATION =
      new Declaration(
          "est-sdr",
          "Estimated SDR",
          Axis.INFO.in(Job.STEMS),
          "dB",
          false,
          "How much stronger the role is than all that is wrong in its stem, told from how far the"
              + " tools' stems lie from each other. At 15 dB or more it cannot be told from"
              + " perfect.",
          "Three-cornered hat: differences of two tools' stems are sums of their error energies,"
              + " less what masks of the mix have in common (0.45 of the median of what a mask"
              + " leaves, by how far a stem is a mask); tools that are nearly alike count as one;"
              + " non-negative least squares with each tool's own cue (what of the mix it leaves, its"
              + " quadrature). Interval over blocks of time and over leaving out one other tool;"
              + " two tools nearer than 1 dB are not told apart, of three tools nearer than 2.5 dB"
              + " (4 where two of them are kin); two of one sort alone, and one beside kin, never.",
          "Kettle Sieve's own definition, after Gray & Allan, Proc. 28th Ann. Symp. Freq. Control,"
              + " 1974, and Premoli & Tavella, IEEE Trans. Instrum. Meas. 42, 1993.");

  @Override
  public Declaration declaration() {
    return DECLARATION;
  }

  @Override
  public Reading measure(StemSet set, String role) throws NotMeasurableException {
    if (role.isEmpty()) {
      throw new NotMeasurableException("it is measured role by role");
    }
    StemVerdict verdict = StemVerdict.byOthers(set, role);
    Estimate sdr = verdict.sdr();
    boolean top = verdict.atTop();
    Estimate shown = top ? sdr.map(x -> Math.min(x, StemVerdict.FULL_DB)) : sdr;
    List<Detail> details = new ArrayList<>();
    details.add(new Detail("mask", verdict.mask(), ""));
    details.add(new Detail("independent tools", verdict.independent(), ""));
    return new Reading(
        DECLARATION.id(),
        new Figure(shown, shown, top ? Limit.AT_OR_ABOVE : Limit.NONE),
        details,
        Evidence.NONE,
        List.of(),
        verdict.notes());
  }
}
