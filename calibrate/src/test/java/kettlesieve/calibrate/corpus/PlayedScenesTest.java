package kettlesieve.calibrate.corpus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.signal.Yin;
import org.junit.jupiter.api.Test;

/** What is played anew is the same in another time, or at another pitch. */
class PlayedScenesTest {
  private static ScoreScene scene(ScoreScene.Kind kind) {
    return ScoreScene.all().stream().filter(s -> s.kind() == kind).findFirst().orElseThrow();
  }

  /** Ticks and keys of what is struck. */
  private static List<long[]> struck(Sequence sequence) {
    List<long[]> notes = new ArrayList<>();
    for (int i = 0; i < sequence.getTracks()[0].size(); i++) {
      MidiEvent event = sequence.getTracks()[0].get(i);
      if (event.getMessage() instanceof ShortMessage m
          && m.getCommand() == ShortMessage.NOTE_ON
          && m.getData2() > 0) {
        notes.add(new long[] {event.getTick(), m.getData1(), m.getChannel()});
      }
    }
    return notes;
  }

  @Test
  void theSameNotesAtAnotherTempoAndHigher() throws Exception {
    for (ScoreScene.Kind kind : ScoreScene.Kind.values()) {
      if (kind.voice()) {
        continue;
      }
      Sequence one = ScoreMaker.notes(scene(kind), 1, 0);
      Sequence slow = ScoreMaker.notes(scene(kind), 2, 0);
      Sequence high = ScoreMaker.notes(scene(kind), 1, 5);
      // A quarter lasts half a second at first (MIDI: the tempo is microseconds a quarter).
      assertThat(one.getMicrosecondLength() / 1e6).isBetween(11.0, 12.6);
      assertThat(slow.getMicrosecondLength())
          .isCloseTo(2 * one.getMicrosecondLength(), within(2000L));
      List<long[]> own = struck(one);
      List<long[]> moved = struck(high);
      assertThat(own).as(kind.word()).hasSizeGreaterThan(6).hasSameSizeAs(moved);
      for (int i = 0; i < own.size(); i++) {
        int by = own.get(i)[2] == 9 ? 0 : 5;
        assertThat(moved.get(i)).containsExactly(own.get(i)[0], own.get(i)[1] + by, own.get(i)[2]);
      }
    }
  }

  @Test
  void aVoiceSaysTheSameSlowerAndHigher() {
    ScoreScene scene = scene(ScoreScene.Kind.SINGING);
    SourceFilterVoice voice = new SourceFilterVoice(scene);
    Audio one = voice.make(1, 1);
    assertThat(voice.make(1, 1).wholeChannel(0)).isEqualTo(one.wholeChannel(0));
    Audio slow = voice.make(1.5, 1);
    Audio high = voice.make(1, 1.5);
    assertThat(slow.seconds()).isCloseTo(1.5 * one.seconds(), within(0.01));
    Yin own = new Yin(one, 65, 500);
    Yin later = new Yin(slow, 65, 500);
    Yin above = new Yin(high, 65, 750);
    int heard = 0;
    int slower = 0;
    int higher = 0;
    for (double at = 0.3; at < 11; at += 0.37) {
      double hz = own.at(at);
      if (!Double.isNaN(hz)) {
        heard++;
        slower += Math.abs(later.at(1.5 * at) / hz - 1) < 0.02 ? 1 : 0;
        higher += Math.abs(above.at(at) / hz - 1.5) < 0.03 ? 1 : 0;
      }
    }
    // The follower of pitch errs in an octave now and then.
    assertThat(heard).isGreaterThan(15);
    assertThat(slower).isGreaterThanOrEqualTo((int) (0.85 * heard));
    assertThat(higher).isGreaterThanOrEqualTo((int) (0.85 * heard));
  }

  @Test
  void noSceneIsInBothHalves() {
    assertThat(ScoreScene.all().stream().map(ScoreScene::id)).doesNotHaveDuplicates();
    assertThat(ScoreScene.all().stream().map(ScoreScene::seed)).doesNotHaveDuplicates();
    assertThat(ScoreScene.all()).hasSize(2 * ScoreScene.Kind.values().length);
  }
}
