package kettlesieve.core.testpiece;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SplittableRandom;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Made;
import kettlesieve.core.comparison.MadeBuilder;
import kettlesieve.core.comparison.StretchTarget;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.Mp3Coding;
import kettlesieve.core.signal.Convolution;
import kettlesieve.core.signal.Db;
import kettlesieve.core.signal.LinearTimeAudio;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;

/**
 * A source whose truth is known.
 *
 * @param source what tools are to work on
 * @param clean the clean recording at the source's rate; null for a mix of stems
 * @param cleanIsFile whether the clean recording is its file as it is
 * @param stems the true stems as they lie in the mix, by role
 * @param made how it was made
 */
public record TestPiece(
    Audio source, Audio clean, boolean cleanIsFile, Map<String, Audio> stems, Made made) {
  /** Longer recordings are refused: everything is held in memory. */
  private static final double MOST_SECONDS = 1800;

  private static final double HUM_HZ = 50;
  private static final double CLICKS_A_SECOND = 4;

  public TestPiece {
    stems = Collections.unmodifiableMap(new LinkedHashMap<>(stems));
  }

  /**
   * Makes one.
   *
   * @param reader reads recordings
   * @throws MediaException if a recording cannot be read
   * @throws PieceException if the recipe asks for what cannot be
   */
  public static TestPiece of(PieceRecipe recipe, MediaReader reader, Progress progress, Stop stop)
      throws MediaException, PieceException {
    recipe.check();
    if (recipe.job().inStems()) {
      return StemMix.of(recipe, reader, progress);
    }
    Audio file = read(recipe.clean(), reader, progress);
    Audio clean =
        recipe.rate() == null || recipe.rate() == file.sampleRate()
            ? file
            : held(LinearTimeAudio.resample(file, recipe.rate()));
    MadeBuilder made = MadeBuilder.builder().from(recipe.clean().getFileName().toString());
    stop.check();
    Audio source =
        switch (recipe.job()) {
          case DENOISE -> noisy(recipe, clean, reader, progress, made);
          case DECLIP -> clipped(recipe, clean, made);
          case DEREVERB -> inRoom(recipe, clean, reader, progress, made);
          case STRETCH, PITCH -> clean;
          case STEMS -> throw new IllegalStateException("a mix is made otherwise");
        };
    stop.check();
    if (recipe.coding() != null) {
      progress.at("coding as MP3", -1);
      source = Mp3Coding.through(source, recipe.coding(), reader);
      made.coding(recipe.coding());
    }
    if (recipe.level() != null && recipe.level() != 0) {
      source = held(source.times(Db.toAmplitude(recipe.level())));
      made.level(recipe.level());
    }
    return new TestPiece(source, clean, clean == file, Map.of(), made.build());
  }

  /** A recording, all of it in memory. */
  static Audio read(Path file, MediaReader reader, Progress progress)
      throws MediaException, PieceException {
    Audio audio = reader.read(file, progress).audio();
    if (audio.seconds() > MOST_SECONDS) {
      throw new PieceException(
          file + ": a test piece is at most half an hour long. Cut out a part of it.");
    }
    if (power(audio) == 0) {
      throw new PieceException(file + ": it is silent. Choose another recording.");
    }
    return audio;
  }

  static Audio held(Audio audio) {
    float[][] channels = new float[audio.channels()][];
    for (int c = 0; c < channels.length; c++) {
      channels[c] = audio.wholeChannel(c);
    }
    return Audio.of(audio.sampleRate(), channels);
  }

  /** Mean power over all samples of all channels. */
  static double power(Audio audio) {
    double sum = 0;
    for (int c = 0; c < audio.channels(); c++) {
      for (float x : audio.wholeChannel(c)) {
        sum += (double) x * x;
      }
    }
    return sum / audio.channels() / Math.max(1, audio.frames());
  }

  private static Audio noisy(
      PieceRecipe recipe, Audio clean, MediaReader reader, Progress progress, MadeBuilder made)
      throws MediaException, PieceException {
    progress.at("making the noise", -1);
    Audio noise = noise(recipe, clean, reader, progress);
    double factor = Math.sqrt(power(clean) / power(noise)) * Db.toAmplitude(-recipe.snr());
    float[][] mixed = new float[clean.channels()][];
    for (int c = 0; c < mixed.length; c++) {
      mixed[c] = clean.wholeChannel(c);
      float[] n = noise.wholeChannel(c);
      for (int i = 0; i < mixed[c].length; i++) {
        mixed[c][i] = (float) (mixed[c][i] + factor * n[i]);
      }
    }
    made.noise(word(recipe.noise())).snr(recipe.snr()).seed(recipe.seed());
    return Audio.of(clean.sampleRate(), mixed);
  }

  /** A noise by its word, or the name of its file without its folders. */
  private static String word(String noise) {
    boolean pause = noise.startsWith(PieceRecipe.PAUSE);
    String file = pause ? noise.substring(PieceRecipe.PAUSE.length()) : noise;
    return PieceRecipe.MADE_NOISES.contains(noise)
        ? noise
        : (pause ? PieceRecipe.PAUSE : "") + Path.of(file).getFileName();
  }

  private static Audio noise(PieceRecipe recipe, Audio clean, MediaReader reader, Progress progress)
      throws MediaException, PieceException {
    int rate = clean.sampleRate();
    int length = Math.toIntExact(clean.frames());
    String words = recipe.noise();
    if (PieceRecipe.MADE_NOISES.contains(words)) {
      float[][] channels = new float[clean.channels()][];
      for (int c = 0; c < channels.length; c++) {
        // Hum and clicks come over one wire; hiss is each channel's own.
        boolean shared = words.equals("hum") || words.equals("clicks");
        channels[c] = made(words, rate, length, recipe.seed() + (shared ? 0 : 7919L * c));
      }
      return Audio.of(rate, channels);
    }
    if (words.startsWith(PieceRecipe.PAUSE)) {
      Path file = Path.of(words.substring(PieceRecipe.PAUSE.length()));
      Audio from = atRate(read(file, reader, progress), rate);
      try {
        return Audio.of(rate, PauseNoise.of(from).of(length, recipe.seed()))
            .asChannels(clean.channels());
      } catch (IllegalArgumentException e) {
        throw new PieceException(file + ": its pauses cannot be used: " + e.getMessage() + ".");
      }
    }
    Path file = Path.of(words);
    Audio whole = atRate(read(file, reader, progress), rate);
    if (whole.frames() < length) {
      throw new PieceException(
          String.format(
              java.util.Locale.ROOT,
              "%s: it lasts %.1f s, and %.1f s are needed. Choose a longer one, or prolong its"
                  + " pauses: %s%s",
              file,
              whole.seconds(),
              clean.seconds(),
              PieceRecipe.PAUSE,
              file));
    }
    long from =
        whole.frames() == length
            ? 0
            : new SplittableRandom(recipe.seed()).nextLong(whole.frames() - length);
    return held(whole.slice(from, from + length).asChannels(clean.channels()));
  }

  private static float[] made(String word, int rate, int length, long seed) {
    return switch (word) {
      case "white" -> MadeNoise.white(length, seed);
      case "pink" -> MadeNoise.pink(length, seed);
      case "hum" -> MadeNoise.hum(HUM_HZ, rate, length, seed);
      case "clicks" -> MadeNoise.clicks(CLICKS_A_SECOND, rate, length, seed);
      default -> throw new IllegalArgumentException(word);
    };
  }

  private static Audio atRate(Audio audio, int rate) {
    return audio.sampleRate() == rate ? audio : held(LinearTimeAudio.resample(audio, rate));
  }

  private static Audio clipped(PieceRecipe recipe, Audio clean, MadeBuilder made) {
    double peak = 0;
    for (int c = 0; c < clean.channels(); c++) {
      for (float x : clean.wholeChannel(c)) {
        peak = Math.max(peak, Math.abs(x));
      }
    }
    double limit = peak * Db.toAmplitude(recipe.clip());
    float[][] clipped = new float[clean.channels()][];
    for (int c = 0; c < clipped.length; c++) {
      clipped[c] = clean.wholeChannel(c);
      for (int i = 0; i < clipped[c].length; i++) {
        double x = clipped[c][i];
        if (x > 0 || !recipe.upperOnly()) {
          clipped[c][i] =
              (float)
                  (recipe.soft()
                      ? limit * StrictMath.tanh(x / limit)
                      : Math.max(-limit, Math.min(limit, x)));
        }
      }
    }
    made.clip(recipe.clip()).soft(recipe.soft()).sides(recipe.upperOnly() ? "upper" : "both");
    return Audio.of(clean.sampleRate(), clipped);
  }

  private static Audio inRoom(
      PieceRecipe recipe, Audio clean, MediaReader reader, Progress progress, MadeBuilder made)
      throws MediaException, PieceException {
    progress.at("making the room", -1);
    int rate = clean.sampleRate();
    float[][] heard = new float[clean.channels()][];
    Audio response =
        recipe.room() == null ? null : atRate(read(recipe.room(), reader, progress), rate);
    for (int c = 0; c < heard.length; c++) {
      double[] h =
          response == null
              ? MadeRoom.of(recipe.decay(), rate, recipe.seed() + 7919L * c)
              : fromDirect(response.wholeChannel(Math.min(c, response.channels() - 1)));
      heard[c] = Convolution.of(clean.wholeChannel(c), h);
    }
    if (response == null) {
      made.room("made").decay(recipe.decay()).seed(recipe.seed());
    } else {
      made.room(recipe.room().getFileName().toString());
    }
    return Audio.of(rate, heard);
  }

  /** From the direct sound on, which is the strongest, at 1: the clean recording is what it was. */
  private static double[] fromDirect(float[] response) {
    int direct = 0;
    for (int i = 0; i < response.length; i++) {
      direct = Math.abs(response[i]) > Math.abs(response[direct]) ? i : direct;
    }
    float[] rest = Arrays.copyOfRange(response, direct, response.length);
    double[] h = new double[rest.length];
    for (int i = 0; i < h.length; i++) {
      h[i] = rest[i] / rest[0];
    }
    return h;
  }

  /** What it is called: what it was made from, and how hard it is. */
  public String name() {
    return made.from().isEmpty()
        ? made.words()
        : made.from() + (made.words().isEmpty() ? "" : ", " + made.words());
  }

  /** The main number in words, such as "10 dB"; empty where there is none. */
  public String difficulty() {
    return made.difficulty().map(d -> StretchTarget.figure(d.value()) + " " + d.unit()).orElse("");
  }
}
