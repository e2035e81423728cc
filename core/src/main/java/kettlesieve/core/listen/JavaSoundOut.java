package kettlesieve.core.listen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.DataLine;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.Mixer;
import javax.sound.sampled.SourceDataLine;

/** The system's sound device, through Java Sound: 16 bits, stereo, about 50 ms of buffer. */
public final class JavaSoundOut implements SoundOut {
  private final String device;
  private SourceDataLine line;
  private byte[] bytes = new byte[0];

  /** The device the system chooses. */
  public JavaSoundOut() {
    this(null);
  }

  /**
   * @param device name of a device, one of {@link #devices()}; null for the system's choice
   */
  public JavaSoundOut(String device) {
    this.device = device;
  }

  /** Names of the devices that play stereo. */
  public static List<String> devices() {
    List<String> names = new ArrayList<>();
    for (Mixer.Info info : AudioSystem.getMixerInfo()) {
      if (AudioSystem.getMixer(info)
          .isLineSupported(new DataLine.Info(SourceDataLine.class, null))) {
        names.add(info.getName());
      }
    }
    return names;
  }

  private static Mixer.Info mixer(String name) throws IOException {
    for (Mixer.Info info : AudioSystem.getMixerInfo()) {
      if (info.getName().equals(name)) {
        return info;
      }
    }
    throw new IOException("there is no sound device called " + name);
  }

  @Override
  public String name() {
    return device == null ? "system sound device" : device;
  }

  @Override
  public boolean simulated() {
    return false;
  }

  @Override
  public void open(int sampleRate) throws IOException {
    AudioFormat format = new AudioFormat(sampleRate, 16, 2, true, false);
    try {
      line =
          device == null
              ? AudioSystem.getSourceDataLine(format)
              : AudioSystem.getSourceDataLine(format, mixer(device));
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
