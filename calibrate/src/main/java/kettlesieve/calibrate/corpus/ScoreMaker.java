package kettlesieve.calibrate.corpus;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import kettlesieve.calibrate.CalibrationException;
import kettlesieve.calibrate.Program;
import kettlesieve.calibrate.WorkFolder;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.task.Progress;

/**
 * Plays a scene at any tempo and pitch: instruments as a MIDI file through a synthesiser of sound
 * fonts (FluidSynth), voices by {@link SourceFilterVoice}. What is played at another tempo is what
 * a stretch ought to be.
 */
public final class ScoreMaker {
  private static final int RATE = 44_100;
  private static final int TICKS = 480;
  private static final double BEAT = 0.5;
  private static final int DRUM_CHANNEL = 9;
  private static final int LEVEL = 96;
  private static final int[][] CHORDS = {
    {0, 4, 7}, {-3, 0, 4}, {-5, -1, 2}, {-7, -3, 0}, {2, 5, 9}, {-8, -5, -1}
  };

  private final Packages packages;
  private final Path folder;

  /**
   * @param packages where the sound font comes from
   * @param folder where notes and sound are put for the time of their making
   */
  public ScoreMaker(Packages packages, Path folder) {
    this.packages = packages;
    this.folder = folder;
  }

  /**
   * Plays a scene; the same words give the same sound.
   *
   * @param ratio length over the source's
   * @param semitones higher than the source
   * @throws CalibrationException if it cannot be played
   */
  public Audio play(ScoreScene scene, double ratio, int semitones) throws CalibrationException {
    if (scene.kind().voice()) {
      return new SourceFilterVoice(scene).make(ratio, Math.pow(2, semitones / 12.0));
    }
    int length = (int) Math.round(ScoreScene.SECONDS * ratio * RATE);
    try (WorkFolder work = WorkFolder.in(folder)) {
      Path own = work.path();
      MidiSystem.write(notes(scene, ratio, semitones), 1, own.resolve("notes.mid").toFile());
      Path font = packages.file(SongMaker.SOUND_FONT, "usr/share/sounds/sf2/TimGM6mb.sf2");
      Program.run(
          own,
          List.of(
              "fluidsynth",
              "-ni",
              "-q",
              "-R",
              "0",
              "-C",
              "0",
              "-g",
              "0.7",
              "-r",
              Integer.toString(RATE),
              "-O",
              "float",
              "-T",
              "wav",
              "-F",
              "played.wav",
              font.toAbsolutePath().toString(),
              "notes.mid"));
      Audio played =
          new MediaReader(own.resolve("decoded"))
              .read(own.resolve("played.wav"), Progress.SILENT)
              .audio();
      return Audio.of(RATE, played.downmix().slice(0, length).wholeChannel(0));
    } catch (IOException | InvalidMidiDataException | MediaException e) {
      throw new CalibrationException(scene.id() + " cannot be played: " + e.getMessage(), e);
    }
  }

  /** A line of notes being written. */
  private static final class Line {
    private final Track track;
    private final int channel;
    private final int higher;

    Line(Track track, int channel, int program, int higher) throws InvalidMidiDataException {
      this.track = track;
      this.channel = channel;
      this.higher = channel == DRUM_CHANNEL ? 0 : higher;
      track.add(
          new MidiEvent(new ShortMessage(ShortMessage.PROGRAM_CHANGE, channel, program, 0), 0));
    }

    void note(double beat, double beats, int key, int velocity) throws InvalidMidiDataException {
      long from = Math.round(beat * TICKS);
      long to = Math.round((beat + beats) * TICKS);
      track.add(
          new MidiEvent(
              new ShortMessage(ShortMessage.NOTE_ON, channel, key + higher, velocity), from));
      track.add(
          new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, channel, key + higher, 0), to));
    }
  }

  static Sequence notes(ScoreScene scene, double ratio, int semitones)
      throws InvalidMidiDataException {
    Sequence sequence = new Sequence(Sequence.PPQ, TICKS);
    Track track = sequence.createTrack();
    int micros = (int) Math.round(1e6 * BEAT * ratio);
    byte[] tempo = {(byte) (micros >> 16), (byte) (micros >> 8), (byte) micros};
    track.add(new MidiEvent(new MetaMessage(0x51, tempo, 3), 0));
    boolean one = scene.half() == Half.SETTING;
    SplittableRandom random = new SplittableRandom(scene.seed());
    // The last beat stays empty: what rings on is not cut.
    double beats = ScoreScene.SECONDS / BEAT - 1;
    switch (scene.kind()) {
      case DRUMS -> drums(new Line(track, DRUM_CHANNEL, one ? 0 : 8, 0), beats, random);
      case PIANO -> chordsAndTune(track, one ? 0 : 2, semitones, beats, random);
      case PLUCKED -> broken(new Line(track, 0, one ? 24 : 25, semitones), 52, beats, random);
      case ORGAN -> held(new Line(track, 0, one ? 19 : 16, semitones), 4, beats, random);
      case STRINGS -> held(new Line(track, 0, one ? 48 : 49, semitones), 3, beats, random);
      case BASS -> walk(new Line(track, 0, one ? 33 : 32, semitones), beats, random);
      case BELLS -> sparse(new Line(track, 0, one ? 9 : 12, semitones), beats, random);
      case BAND -> {
        drums(new Line(track, DRUM_CHANNEL, one ? 8 : 0, 0), beats, random.split());
        walk(new Line(track, 0, one ? 34 : 33, semitones), beats, random.split());
        held(new Line(track, 1, one ? 4 : 48, semitones), 4, beats, random.split());
        broken(new Line(track, 2, one ? 61 : 26, semitones), 60, beats, random.split());
      }
      default -> throw new IllegalArgumentException(scene.kind() + " is not played from notes");
    }
    track.add(
        new MidiEvent(new MetaMessage(0x2f, new byte[0], 0), Math.round((beats + 1.5) * TICKS)));
    return sequence;
  }

  private static int[] chord(int bar, int root) {
    int[] shape = CHORDS[Math.floorMod(bar * 5 + root, CHORDS.length)];
    return new int[] {root + shape[0], root + shape[1], root + shape[2]};
  }

  private static int soft(SplittableRandom random) {
    return LEVEL - 24 + random.nextInt(32);
  }

  private static void drums(Line line, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    for (int eighth = 0; eighth / 2.0 < beats; eighth++) {
      int in = eighth % 8;
      line.note(eighth / 2.0, 0.2, 42, soft(random) - 20);
      if (in == 0 || in == 5 || in == 3 && random.nextInt(2) == 0) {
        line.note(eighth / 2.0, 0.2, 36, 110);
      }
      if (in == 2 || in == 6) {
        line.note(eighth / 2.0, 0.2, 38, 100);
      }
      if (eighth % 32 == 16) {
        line.note(eighth / 2.0, 1, 49, 90);
      }
    }
  }

  private static void chordsAndTune(
      Track track, int program, int higher, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    Line line = new Line(track, 0, program, higher);
    int root = random.nextInt(12) - 6;
    for (int beat = 0; beat + 2 <= beats; beat += 2) {
      for (int tone : chord(beat / 4, root)) {
        line.note(beat, 1.8, 55 + tone, soft(random));
      }
    }
    for (double at = 0; at + 1 < beats; ) {
      double held = List.of(0.5, 0.5, 1.0, 1.5).get(random.nextInt(4));
      line.note(at, 0.9 * held, 72 + chord((int) at / 4, root)[random.nextInt(3)], soft(random));
      at += held;
    }
  }

  private static void broken(Line line, int base, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    int root = random.nextInt(12) - 6;
    for (double at = 0; at + 0.5 < beats; at += 0.5) {
      if (random.nextInt(6) > 0) {
        int tone = chord((int) at / 4, root)[random.nextInt(3)];
        line.note(at, 0.8, base + tone + 12 * random.nextInt(2), soft(random));
      }
    }
  }

  private static void held(Line line, double each, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    int root = random.nextInt(12) - 6;
    for (double at = 0; at + each <= beats; at += each) {
      for (int tone : chord((int) (at / each), root)) {
        line.note(at, each - 0.1, 60 + tone, 90);
      }
    }
  }

  private static void walk(Line line, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    int root = random.nextInt(12) - 6;
    for (double at = 0; at + 1 < beats; ) {
      double held = random.nextInt(3) == 0 ? 0.5 : 1;
      line.note(at, 0.85 * held, 38 + chord((int) at / 4, root)[random.nextInt(3)], soft(random));
      at += held;
    }
  }

  private static void sparse(Line line, double beats, SplittableRandom random)
      throws InvalidMidiDataException {
    int root = random.nextInt(12) - 6;
    for (double at = 0; at + 1 < beats; at += 1) {
      if (random.nextInt(8) > 0) {
        line.note(at, 1, 76 + chord((int) at / 4, root)[random.nextInt(3)], soft(random));
      }
    }
  }
}
