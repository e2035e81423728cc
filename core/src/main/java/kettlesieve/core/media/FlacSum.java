package kettlesieve.core.media;

import static org.bytedeco.ffmpeg.global.avcodec.AV_CODEC_ID_FLAC;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import org.bytedeco.ffmpeg.avcodec.AVCodecParameters;

/**
 * The checksum that a FLAC file holds of its own samples (RFC 9639, section 8.2: MD5 of the
 * unencoded samples, interleaved, little-endian) against what was decoded. For other files, and
 * where none was written, everything fits.
 */
final class FlacSum {
  private static final int STREAM_INFO = 34;
  private static final int EXACT_BITS = 24;

  private final int bits;
  private final long frames;
  private final byte[] expected;
  private final MessageDigest digest;

  private FlacSum(int bits, long frames, byte[] expected) {
    this.bits = bits;
    this.frames = frames;
    this.expected = expected;
    try {
      this.digest = MessageDigest.getInstance("MD5");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has MD5", e);
    }
  }

  static FlacSum of(AVCodecParameters parameters) {
    if (parameters.codec_id() != AV_CODEC_ID_FLAC || parameters.extradata_size() < STREAM_INFO) {
      return new FlacSum(0, 0, null);
    }
    byte[] info = new byte[STREAM_INFO];
    parameters.extradata().get(info);
    int bits = ((info[12] & 1) << 4 | (info[13] & 0xf0) >> 4) + 1;
    long frames = info[13] & 0xfL;
    for (int i = 14; i < 18; i++) {
      frames = frames << 8 | info[i] & 0xff;
    }
    byte[] sum = Arrays.copyOfRange(info, 18, STREAM_INFO);
    boolean written = !Arrays.equals(sum, new byte[sum.length]);
    return new FlacSum(bits, frames, written && bits <= EXACT_BITS ? sum : null);
  }

  /** Whether a header that tells the length tells that nothing more is to come. */
  boolean complete(long decoded) {
    return frames > 0 && decoded >= frames;
  }

  void add(float[][] block) {
    if (expected == null) {
      return;
    }
    int width = (bits + 7) / 8;
    float scale = 1 << bits - 1;
    byte[] bytes = new byte[block[0].length * block.length * width];
    int at = 0;
    for (int i = 0; i < block[0].length; i++) {
      for (float[] channel : block) {
        int value = Math.round(channel[i] * scale);
        for (int b = 0; b < width; b++) {
          bytes[at++] = (byte) (value >> 8 * b);
        }
      }
    }
    digest.update(bytes);
  }

  /** Whether what was decoded is what was encoded. To be asked once, at the end. */
  boolean fits() {
    return expected == null || Arrays.equals(expected, digest.digest());
  }
}
