package kettlesieve.calibrate.corpus;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.calibrate.CalibrationException;

/**
 * Notes of a sound font (SoundFont 2.04, E-mu 1994/2006): enough of it for mixes whose stems are
 * known. Of a note the loudest zone's sample is played, looped where it is looped; filters, vibrato
 * and the finer envelopes are left out.
 */
public final class SoundFont {
  private static final int INSTRUMENT = 41;
  private static final int KEYS = 43;
  private static final int VELOCITIES = 44;
  private static final int COARSE = 51;
  private static final int FINE = 52;
  private static final int SAMPLE = 53;
  private static final int MODES = 54;
  private static final int ROOT = 58;

  private final short[] samples;
  private final List<Preset> presets = new ArrayList<>();
  private final ByteBuffer instruments;
  private final ByteBuffer bags;
  private final ByteBuffer generators;
  private final ByteBuffer headers;

  private record Preset(int program, int bank, List<Zone> zones) {}

  private record Zone(int lowKey, int highKey, int lowVelocity, int highVelocity, int target) {}

  private record Voice(int sample, int root, double cents, boolean looped) {}

  /**
   * Reads one.
   *
   * @throws CalibrationException if it is none
   */
  public SoundFont(Path file) throws CalibrationException {
    try {
      ByteBuffer all = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
      ByteBuffer data = chunk(all, "sdta", "smpl");
      samples = new short[data.remaining() / 2];
      data.asShortBuffer().get(samples);
      instruments = chunk(all, "pdta", "inst");
      bags = chunk(all, "pdta", "ibag");
      generators = chunk(all, "pdta", "igen");
      headers = chunk(all, "pdta", "shdr");
      readPresets(
          chunk(all, "pdta", "phdr"), chunk(all, "pdta", "pbag"), chunk(all, "pdta", "pgen"));
    } catch (IOException | RuntimeException e) {
      throw new CalibrationException(file + " is no sound font: " + e.getMessage(), e);
    }
  }

  private static ByteBuffer chunk(ByteBuffer all, String list, String name) {
    int at = 12;
    while (at + 8 <= all.limit()) {
      int size = all.getInt(at + 4);
      if (id(all, at).equals("LIST") && id(all, at + 8).equals(list)) {
        int in = at + 12;
        while (in + 8 <= at + 8 + size) {
          int inner = all.getInt(in + 4);
          if (id(all, in).equals(name)) {
            return all.slice(in + 8, inner).order(ByteOrder.LITTLE_ENDIAN);
          }
          in += 8 + inner + (inner & 1);
        }
      }
      at += 8 + size + (size & 1);
    }
    throw new IllegalArgumentException("it lacks " + name);
  }

  private static String id(ByteBuffer b, int at) {
    byte[] id = new byte[4];
    b.get(at, id);
    return new String(id, StandardCharsets.US_ASCII);
  }

  private void readPresets(ByteBuffer heads, ByteBuffer bag, ByteBuffer gens) {
    for (int p = 0; p + 76 <= heads.limit(); p += 38) {
      int from = heads.getShort(p + 24) & 0xffff;
      int to = heads.getShort(p + 38 + 24) & 0xffff;
      presets.add(
          new Preset(
              heads.getShort(p + 20) & 0xffff,
              heads.getShort(p + 22) & 0xffff,
              zones(bag, gens, from, to, INSTRUMENT)));
    }
  }

  private static List<Zone> zones(ByteBuffer bag, ByteBuffer gens, int from, int to, int target) {
    List<Zone> zones = new ArrayList<>();
    for (int b = from; b < to; b++) {
      int lowKey = 0;
      int highKey = 127;
      int lowVelocity = 0;
      int highVelocity = 127;
      int found = -1;
      int end = bag.getShort(4 * b + 4) & 0xffff;
      for (int g = bag.getShort(4 * b) & 0xffff; g < end; g++) {
        int kind = gens.getShort(4 * g) & 0xffff;
        int low = gens.get(4 * g + 2) & 0xff;
        int high = gens.get(4 * g + 3) & 0xff;
        if (kind == KEYS) {
          lowKey = low;
          highKey = high;
        } else if (kind == VELOCITIES) {
          lowVelocity = low;
          highVelocity = high;
        } else if (kind == target) {
          found = gens.getShort(4 * g + 2) & 0xffff;
        }
      }
      if (found >= 0) {
        zones.add(
            new Zone(lowKey, highKey, lowVelocity, highVelocity, target == SAMPLE ? b : found));
      }
    }
    return zones;
  }

  private static Zone fitting(List<Zone> zones, int key) {
    Zone best = null;
    for (Zone z : zones) {
      if (key >= z.lowKey() && key <= z.highKey() && z.highVelocity() >= 90) {
        return z;
      }
      best = best == null ? z : best;
    }
    return best;
  }

  private Voice voice(int program, int bank, int key) throws CalibrationException {
    Preset preset =
        presets.stream()
            .filter(p -> p.program() == program && p.bank() == bank)
            .findFirst()
            .orElseThrow(() -> new CalibrationException("the sound font lacks " + program));
    int instrument = fitting(preset.zones(), key).target();
    int from = instruments.getShort(22 * instrument + 20) & 0xffff;
    int to = instruments.getShort(22 * instrument + 42) & 0xffff;
    int bag = fitting(zones(bags, generators, from, to, SAMPLE), key).target();
    int sample = 0;
    int root = -1;
    double cents = 0;
    boolean looped = false;
    int end = bags.getShort(4 * bag + 4) & 0xffff;
    for (int g = bags.getShort(4 * bag) & 0xffff; g < end; g++) {
      int value = generators.getShort(4 * g + 2);
      switch (generators.getShort(4 * g)) {
        case SAMPLE -> sample = value & 0xffff;
        case ROOT -> root = value;
        case COARSE -> cents += 100 * value;
        case FINE -> cents += value;
        case MODES -> looped = (value & 1) == 1;
        default -> {
          // Nothing that is played here.
        }
      }
    }
    root = root < 0 ? headers.get(46 * sample + 40) & 0xff : root;
    cents += headers.get(46 * sample + 41);
    return new Voice(sample, root, cents, looped);
  }

  /**
   * A note.
   *
   * @param program its number, from 0
   * @param bank 0, or 128 for drums
   * @param key 60 is middle C; on a drum bank the drum
   * @param seconds until it is let go
   * @param rate of what is made, Hz
   */
  public float[] note(int program, int bank, int key, double seconds, int rate)
      throws CalibrationException {
    Voice voice = voice(program, bank, key);
    int at = 46 * voice.sample();
    int start = headers.getInt(at + 20);
    int end = headers.getInt(at + 24);
    int loopStart = headers.getInt(at + 28);
    int loopEnd = headers.getInt(at + 32);
    double step =
        headers.getInt(at + 36)
            / (double) rate
            * Math.pow(2, (100.0 * (key - voice.root()) + voice.cents()) / 1200);
    boolean looped = voice.looped() && loopEnd > loopStart + 8;
    int held = (int) (seconds * rate);
    int release = rate / 10;
    float[] out = new float[held + release];
    double place = start;
    for (int i = 0; i < out.length; i++) {
      if (looped && place >= loopEnd) {
        place -= loopEnd - loopStart;
      }
      int k = (int) place;
      if (k + 1 >= end) {
        break;
      }
      double f = place - k;
      double gain = i < held ? 1 : 1 - (double) (i - held) / release;
      out[i] = (float) (gain * ((1 - f) * samples[k] + f * samples[k + 1]) / 32768);
      place += step;
    }
    return out;
  }
}
