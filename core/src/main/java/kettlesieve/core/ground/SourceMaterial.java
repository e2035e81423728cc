package kettlesieve.core.ground;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.TimeSpan;
import kettlesieve.core.signal.Clipping;
import kettlesieve.core.signal.Framing;
import kettlesieve.core.signal.Segments;
import kettlesieve.core.signal.Spectrogram;

/**
 * The source's excerpt with everything about it that is worked out once for all versions: spectra,
 * activity and pauses, noise, cells.
 */
public final class SourceMaterial {
  private final Audio whole;
  private final long firstFrame;
  private final Audio audio;
  private final List<Spectrogram> spectra;
  private final PauseGround pauses;
  private final Job job;
  private Ground ground;
  private final int originalChannels;
  private SourceMaterial downmix;
  private Clipping clipping;
  private SourceClicks clicks;
  private Segments segments;

  private SourceMaterial(
      int originalChannels,
      Audio whole,
      long firstFrame,
      Audio audio,
      List<Spectrogram> spectra,
      PauseGround pauses,
      Job job) {
    this.job = job;
    this.originalChannels = originalChannels;
    this.whole = whole;
    this.firstFrame = firstFrame;
    this.audio = audio;
    this.spectra = spectra;
    this.pauses = pauses;
  }

  /**
   * Analyses the source alone: pauses are found in the source itself, or taken from the person.
   *
   * @param source the whole source
   * @param excerpt the part that is measured; null for all of it
   * @param marks pauses marked by the person in seconds of the source; null to have them found
   */
  public static SourceMaterial of(Audio source, TimeSpan excerpt, List<TimeSpan> marks) {
    return of(source, excerpt, marks, null, Job.DENOISE, null);
  }

  /**
   * Analyses the source, with pauses found in the reference where the person marked none.
   *
   * @param reference the clean recording, already on the source's time; null if there is none
   * @param job what was done to the source: it says what tells wanted sound from what is not
   * @param known what was found of the pauses before; null to look for them
   */
  public static SourceMaterial of(
      Audio source,
      TimeSpan excerpt,
      List<TimeSpan> marks,
      Audio reference,
      Job job,
      PauseFacts known) {
    int rate = source.sampleRate();
    long first = excerpt == null ? 0 : Math.min(source.frames(), Math.round(excerpt.from() * rate));
    long last =
        excerpt == null
            ? source.frames()
            : Math.min(source.frames(), Math.round(excerpt.to() * rate));
    Audio part = source.slice(first, last);
    List<Spectrogram> spectra = spectra(part);
    Framing framing = spectra.get(0).framing();
    boolean fits = known != null && known.frames().length == framing.count();
    Activity activity;
    if (fits) {
      activity = Activity.of(framing, known);
    } else if (marks != null) {
      double offset = (double) first / rate;
      activity = Activity.marked(spectra, shifted(marks, offset, part.seconds()));
    } else if (reference != null) {
      activity = Activity.find(spectra(reference.slice(first, last))).known();
    } else {
      activity = Activity.find(spectra);
    }
    PauseGround pauses = new PauseGround(spectra, activity, fits ? known : null);
    return new SourceMaterial(source.channels(), source, first, part, spectra, pauses, job);
  }

  private static List<TimeSpan> shifted(List<TimeSpan> marks, double offset, double seconds) {
    List<TimeSpan> inside = new ArrayList<>();
    for (TimeSpan mark : marks) {
      double from = Math.max(0, mark.from() - offset);
      double to = Math.min(seconds, mark.to() - offset);
      if (to > from) {
        inside.add(new TimeSpan(from, to));
      }
    }
    return inside;
  }

  /**
   * This, or for a version with another number of channels the same on the common downmix. Pauses
   * stay where they were found.
   */
  public synchronized SourceMaterial forChannels(int versionChannels) {
    if (versionChannels == channels() || channels() == 1) {
      return this;
    }
    if (downmix == null) {
      Audio mono = audio.downmix();
      List<Spectrogram> monoSpectra = spectra(mono);
      downmix =
          new SourceMaterial(
              originalChannels,
              whole.downmix(),
              firstFrame,
              mono,
              monoSpectra,
              new PauseGround(monoSpectra, pauses.activity(), null),
              job);
    }
    return downmix;
  }

  /** Transformed segments of the whole source, downmixed, which versions are found by. */
  public synchronized Segments segments() {
    if (segments == null) {
      segments = new Segments(whole.downmix());
    }
    return segments;
  }

  /** A version as it is compared with this: as it is, or downmixed. */
  public Audio commonChannels(Audio version) {
    return version.channels() == channels() ? version : version.downmix();
  }

  /** Number of channels of the source's file. */
  public int originalChannels() {
    return originalChannels;
  }

  /** Spectra of every channel of a recording. */
  public static List<Spectrogram> spectra(Audio audio) {
    return IntStream.range(0, audio.channels()).mapToObj(c -> new Spectrogram(audio, c)).toList();
  }

  /** The whole source. */
  public Audio whole() {
    return whole;
  }

  /** Position of the excerpt's first sample in the source. */
  public long firstFrame() {
    return firstFrame;
  }

  /** Seconds from the start of the source to the start of the excerpt. */
  public double startSeconds() {
    return (double) firstFrame / whole.sampleRate();
  }

  /** The excerpt. */
  public Audio audio() {
    return audio;
  }

  /** Number of channels of the excerpt. */
  public int channels() {
    return audio.channels();
  }

  /** Where the excerpt is clipped. */
  public synchronized Clipping clipping() {
    if (clipping == null) {
      clipping = Clipping.of(audio);
    }
    return clipping;
  }

  /** Where the excerpt has clicks. */
  public synchronized SourceClicks clicks() {
    if (clicks == null) {
      clicks = new SourceClicks(audio, framing());
    }
    return clicks;
  }

  /** Frames of the excerpt. */
  public Framing framing() {
    return spectra.get(0).framing();
  }

  /** Spectra of a channel of the excerpt. */
  public Spectrogram spectrum(int channel) {
    return spectra.get(channel);
  }

  /** What the pauses tell: which are found whatever the job. */
  public PauseGround pauses() {
    return pauses;
  }

  /** What is kept of the pauses for the next time. */
  public PauseFacts pauseFacts() {
    return pauses.facts();
  }

  /** What tells wanted sound from what is not: in a room its decay, elsewhere the pauses. */
  public synchronized Ground ground() {
    if (ground == null) {
      ground = job.inARoom() ? new DirectGround(spectra) : pauses;
    }
    return ground;
  }

  /** Lowest bin of the range in which pauses are judged, 200 Hz. */
  public int pauseLowBin() {
    return PauseGround.lowBin(framing());
  }

  /** Highest bin of the range in which pauses are judged: 8,000 Hz, at most 0.45 of the rate. */
  public int pauseHighBin() {
    return PauseGround.highBin(framing());
  }
}
