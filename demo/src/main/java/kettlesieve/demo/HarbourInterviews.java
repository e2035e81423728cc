package kettlesieve.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import kettlesieve.core.audio.Audio;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.WavWriter;
import kettlesieve.core.rig.StandIn;
import kettlesieve.core.rig.StandIns;
import kettlesieve.core.task.Progress;
import kettlesieve.core.task.Stop;
import kettlesieve.core.testpiece.PieceException;
import kettlesieve.core.testpiece.PieceFiles;
import kettlesieve.core.testpiece.PieceRecipe;
import kettlesieve.core.testpiece.TestPiece;

/**
 * Which denoiser for the harbour museum's interviews? Nine test pieces out of the keeper's voice,
 * and what four stand-ins make of each: what a round-up is for.
 */
public final class HarbourInterviews {
  private static final int RATE = DemoFolder.RATE;
  private static final double AMOUNT = 50;

  /** A piece: its clean part, the noise, its ratio, a tag, a name. */
  private record Piece(String clean, String noise, double snr, String tag, String name) {}

  private static final List<Piece> PIECES =
      List.of(
          new Piece("watch-1", "white", 20, "tape hiss", "First watch, good tape"),
          new Piece("watch-1", "white", 10, "tape hiss", "First watch, old tape"),
          new Piece("watch-1", "white", 0, "tape hiss", "First watch, worst tape"),
          new Piece("watch-2", "pink", 10, "surf", "Second watch, by the window"),
          new Piece("lamp", "pink", 5, "surf", "Lamp room, door open"),
          new Piece("watch-3", "hum", 10, "generator", "Third watch, engine below"),
          new Piece("lamp", "hum", 15, "generator", "Lamp room, engine below"),
          new Piece("watch-2", "clicks", 10, "worn disc", "Second watch, from disc"),
          new Piece("watch-3", "clicks", 15, "worn disc", "Third watch, from disc"));

  private HarbourInterviews() {}

  /**
   * Makes the comparisons or finds them there.
   *
   * @return their files
   * @throws IOException if they cannot be written
   */
  public static List<Path> make(Path folder, Progress progress) throws IOException {
    Path made = folder.resolve(".interviews-1");
    List<Path> files = new ArrayList<>();
    for (int i = 0; i < PIECES.size(); i++) {
      files.add(folder.resolve(String.format("interview-%d" + ComparisonFile.ENDING, i + 1)));
    }
    if (Files.exists(made) && files.stream().allMatch(Files::exists)) {
      return files;
    }
    Files.createDirectories(folder);
    try {
      Map<String, Path> clean = clean(new DemoFolder(folder));
      for (int i = 0; i < files.size(); i++) {
        progress.at("making the interviews", (double) i / files.size());
        piece(PIECES.get(i), clean, files.get(i), i + 1);
      }
    } catch (MediaException | PieceException | ComparisonFileException e) {
      throw new IOException(e.getMessage(), e);
    }
    Files.writeString(made, "");
    return files;
  }

  private static Map<String, Path> clean(DemoFolder folder) throws IOException, MediaException {
    float[] keeper = folder.voice("keepers-log-voice.flac");
    float[] lamp = folder.voice("lamp-room-voice.flac");
    Map<String, Path> clean = new LinkedHashMap<>();
    int third = keeper.length / 3;
    for (int i = 0; i < 3; i++) {
      float[] part = Arrays.copyOfRange(keeper, i * third, (i + 1) * third);
      clean.put(
          "watch-" + (i + 1), folder.write(Audio.of(RATE, part), "watch-" + (i + 1) + ".wav"));
    }
    clean.put("lamp", folder.write(Audio.of(RATE, lamp), "lamp.wav"));
    return clean;
  }

  private static void piece(Piece piece, Map<String, Path> clean, Path file, long seed)
      throws IOException, MediaException, PieceException, ComparisonFileException {
    PieceRecipe recipe =
        PieceRecipe.of(Job.DENOISE, clean.get(piece.clean()))
            .withNoise(piece.noise())
            .withSnr(piece.snr())
            // The same noise at each step of a sweep.
            .withSeed(piece.noise().equals("white") ? 1 : seed);
    TestPiece test =
        TestPiece.of(recipe, new MediaReader(file.getParent()), Progress.SILENT, Stop.NEVER);
    Comparison c =
        PieceFiles.write(test, recipe, file, List.of(piece.tag()), Progress.SILENT)
            .withName(piece.name());
    int n = 0;
    for (StandIn tool : StandIns.of(Job.DENOISE)) {
      n++;
      Audio out = tool.process(test.source(), AMOUNT, Progress.SILENT);
      Path to = PieceFiles.beside(file, tool.id());
      WavWriter.write(out, to, WavWriter.Format.PCM_24, Progress.SILENT);
      c =
          c.plus(
              Version.of("v" + n, tool.title() + " 50", MediaRef.of(to))
                  .withTool(tool.title())
                  .withAmount(AMOUNT));
    }
    ComparisonFile.save(MadeUpCosts.in(c, test.source().seconds()), file);
  }
}
