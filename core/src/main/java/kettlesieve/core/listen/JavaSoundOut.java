package kettlesieve.core.listen;

import java.io.IOException;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;

/** The system's sound device, through Java Sound: 16 bits, stereo, about 50 ms of buffer. */
public final class JavaSoundOut implements SoundOut {
  private SourceDataLine line;
  private byte[] bytes = new byte[0];

  @Override
  public String name() {
    return "system sound device";
  }

  @Override
  public boolean simulated() {
    return false;
  }

  @Override
  public void open(int sampleRate) throws IOException {
    AudioFormat format = new AudioFormat(sampleRate, 16, 2, true, false);
    try {
      line = AudioSystem.getSourceDataLine(format);
      line.open(format, 4 * (sampleRate / 20));
      line.start();
    } catch (LineUnavailableException | IllegalArgumentException | SecurityException e) {
      throw new IOException("no sound device takes " + sampleRate + " Hz in stereo", e);
    }
  }

  @Override
  public void write(float[] left, float[] right, int frames) throws IOException {
    if (bytes.length < 4 * frames) {
      bytes = new byte[4 * frames];
    }
    for (int i = 0; i < frames; i++) {
      put(4 * i, left[i]);
      put(4 * i + 2, right[i]);
    }
    int written = line.write(bytes, 0, 4 * frames);
    if (written < 4 * frames || !line.isOpen()) {
      throw new IOException("the sound device was lost");
    }
  }

  private void put(int at, float sample) {
    int value = Math.round(Math.max(-1, Math.min(1, sample)) * 32767);
    bytes[at] = (byte) value;
    bytes[at + 1] = (byte) (value >> 8);
  }

  @Override
  public int pendingFrames() {
    return line == null ? 0 : (line.getBufferSize() - line.available()) / 4;
  }

  @Override
  public void close() {
    if (line != null) {
      line.stop();
      line.flush();
      line.close();
      line = null;
    }
  }
}
