package kettlesieve.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.ComparisonFileException;
import kettlesieve.core.comparison.Job;
import kettlesieve.core.media.MediaException;
import kettlesieve.core.media.MediaReader;
import kettlesieve.core.media.UserFolders;
import kettlesieve.core.rig.CommandTool;
import kettlesieve.core.rig.RigTool;
import kettlesieve.core.rig.ToolShelf;
import kettlesieve.core.task.Stop;
import kettlesieve.core.testpiece.PieceException;
import kettlesieve.core.testpiece.PieceFiles;
import kettlesieve.core.testpiece.PieceRecipe;
import kettlesieve.core.testpiece.PieceRecipeBuilder;
import kettlesieve.core.testpiece.TestPiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code testpiece}: a source whose truth is known, and the comparison around it. */
@Command(
    name = "testpiece",
    description = {
      "Makes a source whose truth is known out of a clean recording or stems, and the comparison"
          + " around it.",
      "The same words and seed give the same bytes."
    },
    exitCodeListHeading = "Exit status:%n",
    exitCodeList = {
      "0:done",
      "1:an error of the program itself",
      "2:the words are off",
      "3:a recording cannot be used, a file not written, or a tool failed"
    })
final class TestPieceCommand implements Callable<Integer> {
  private static final int UNUSABLE = 3;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1", paramLabel = "OUT.sieve", description = "the comparison to write")
  private String out;

  @Option(
      names = "--job",
      required = true,
      paramLabel = "JOB",
      description = "denoise, dereverb, declip, stems, stretch or pitch")
  private String job;

  @Option(names = "--clean", paramLabel = "FILE", description = "the clean recording")
  private Path clean;

  @Option(
      names = "--noise",
      paramLabel = "NOISE",
      description = "white, pink, hum, clicks, pause:FILE (the noise of its pauses), or a file")
  private String noise;

  @Option(
      names = "--snr",
      paramLabel = "DB",
      description = "power of the clean recording over power of the noise, over the whole length")
  private Double snr;

  @Option(names = "--clip", paramLabel = "DB", description = "clip level, dB of the peak: -6")
  private Double clip;

  @Option(names = "--soft", description = "clip softly")
  private boolean soft;

  @Option(names = "--upper", description = "clip the upper half of the wave only")
  private boolean upper;

  @Option(
      names = "--room",
      paramLabel = "FILE|SECONDS",
      description = "an impulse response, or the decay time of a made room")
  private String room;

  @Option(
      names = "--stem",
      paramLabel = "ROLE=FILE[@DB[,PAN]]",
      description = "a true stem; pan -1 is left, 1 right")
  private List<String> stems = new ArrayList<>();

  @Option(names = "--level", paramLabel = "DB", description = "moves the level of the source")
  private Double level;

  @Option(names = "--rate", paramLabel = "HZ", description = "sampling frequency of the source")
  private Integer rate;

  @Option(
      names = "--mp3",
      paramLabel = "KBITS",
      description = "sends the source through MP3 of so many kbit/s")
  private Integer coding;

  @Option(names = "--ratio", paramLabel = "R", description = "stretch: there, and 1/R back")
  private Double ratio;

  @Option(names = "--semitones", paramLabel = "S", description = "pitch: there, and -S back")
  private Double semitones;

  @Option(names = "--seed", paramLabel = "N", description = "of whatever is drawn")
  private long seed = 1;

  @Option(
      names = "--sweep",
      paramLabel = "A,B,…",
      description = "one comparison a step: signal-to-noise ratios, clip levels or decay times")
  private String sweep;

  @Option(names = "--tool", paramLabel = "NAME", description = "makes versions at once; repeatable")
  private List<String> tools = new ArrayList<>();

  @Option(names = "--amounts", paramLabel = "A,B,…", description = "amounts of the tools")
  private String amounts;

  @Option(names = "--tag", paramLabel = "TAG", description = "a word for round-ups; repeatable")
  private List<String> tags = new ArrayList<>();

  @Mixin private TerminalProgress shown = new TerminalProgress();

  @Option(names = "--help", usageHelp = true, description = "show this help")
  private boolean help;

  @Override
  public Integer call() throws Exception {
    PrintWriter err = spec.commandLine().getErr();
    if (!out.endsWith(ComparisonFile.ENDING)) {
      throw new UsageException(out + ": a comparison ends in " + ComparisonFile.ENDING);
    }
    PieceRecipe recipe;
    List<PieceRecipe> steps = new ArrayList<>();
    try {
      recipe = recipe();
      if (sweep == null) {
        recipe.check();
        steps.add(recipe);
      } else {
        for (double step : numbers("--sweep", sweep)) {
          PieceRecipe one = recipe.at(step);
          one.check();
          steps.add(one);
        }
      }
    } catch (PieceException e) {
      throw new UsageException(e.getMessage());
    }
    List<RigTool> rig = rig(recipe.job());
    for (RigTool tool : rig) {
      ToolRuns.amounts(tool, tool.hasAmount() ? amounts : null);
    }
    List<Path> files = new ArrayList<>();
    for (int i = 0; i < steps.size(); i++) {
      Path file = Path.of(out).toAbsolutePath().normalize();
      files.add(sweep == null ? file : PieceFiles.step(file, i + 1));
    }
    for (Path file : files) {
      if (Files.exists(file) || Files.exists(PieceFiles.beside(file, "source"))) {
        throw new UsageException(
            file + ": there is a test piece of this name already. Choose another");
      }
    }
    return make(steps, files, rig, err) ? 0 : UNUSABLE;
  }

  private boolean make(
      List<PieceRecipe> steps, List<Path> files, List<RigTool> rig, PrintWriter err)
      throws InterruptedException {
    PrintWriter said = spec.commandLine().getOut();
    TerminalProgress progress = shown.to(err);
    Map<Path, Comparison> made = new LinkedHashMap<>();
    try {
      MediaReader reader = MediaReader.standard();
      for (int i = 0; i < steps.size(); i++) {
        TestPiece piece = TestPiece.of(steps.get(i), reader, progress, Stop.NEVER);
        Path file = files.get(i);
        Comparison c =
            PieceFiles.write(piece, steps.get(i), file, SharedWords.tags(tags), progress);
        if (ratio != null || semitones != null) {
          c = ComparisonFile.update(file, old -> old.withRatio(ratio).withSemitones(semitones));
        }
        progress.clear();
        made.put(file, c);
        said.println(file + ": " + piece.name());
      }
    } catch (MediaException | PieceException | ComparisonFileException e) {
      progress.clear();
      err.println("kettle: " + e.getMessage());
      return false;
    } catch (IOException e) {
      progress.clear();
      err.println(
          "kettle: "
              + out
              + ": the test piece could not be written. Check the folder and the room on disk.");
      return false;
    }
    said.flush();
    boolean back = steps.get(0).job().ownTime();
    boolean well = true;
    ToolRuns runs = new ToolRuns(null, back, shown, said, err);
    for (RigTool tool : rig) {
      well &= runs.make(made, tool, ToolRuns.amounts(tool, tool.hasAmount() ? amounts : null));
    }
    return well;
  }

  private List<RigTool> rig(Job wanted) {
    if (tools.isEmpty()) {
      return List.of();
    }
    Path shelf = UserFolders.state().resolve("tools.json");
    List<CommandTool> known;
    try {
      known = Files.exists(shelf) ? ToolShelf.read(shelf) : List.of();
    } catch (IOException e) {
      throw new UsageException(e.getMessage());
    }
    List<RigTool> all = new ArrayList<>();
    for (String name : tools) {
      RigTool tool = ToolRuns.named(known, name);
      if (!tool.does(wanted)) {
        throw new UsageException(tool.title() + " is not for the job " + wanted.id());
      }
      all.add(tool);
    }
    return all;
  }

  private PieceRecipe recipe() throws PieceException {
    Job wanted =
        Arrays.stream(Job.values())
            .filter(j -> j.id().equals(job))
            .findFirst()
            .orElseThrow(
                () ->
                    new UsageException(
                        "--job is one of "
                            + Arrays.stream(Job.values())
                                .map(Job::id)
                                .collect(Collectors.joining(", "))));
    if (wanted == Job.STRETCH && ratio == null || wanted == Job.PITCH && semitones == null) {
      throw new UsageException(
          "say how far it goes there and back: "
              + (wanted == Job.STRETCH ? "--ratio R" : "--semitones S"));
    }
    if (wanted != Job.STRETCH && ratio != null || wanted != Job.PITCH && semitones != null) {
      throw new UsageException("--ratio is for stretch, --semitones for pitch");
    }
    Double decay = null;
    Path response = null;
    if (room != null) {
      try {
        decay = Double.parseDouble(room);
      } catch (NumberFormatException e) {
        response = path(room);
      }
    }
    Map<String, PieceRecipe.StemShare> mix = new LinkedHashMap<>();
    for (String words : stems) {
      stem(words, mix);
    }
    return PieceRecipeBuilder.builder()
        .job(wanted)
        .clean(clean)
        .noise(noise)
        .snr(snr)
        .clip(clip)
        .soft(soft)
        .upperOnly(upper)
        .room(response)
        .decay(decay)
        .level(level)
        .rate(rate)
        .coding(coding)
        .stems(mix)
        .seed(seed)
        .build();
  }

  /** {@code ROLE=FILE}, {@code ROLE=FILE@DB} or {@code ROLE=FILE@DB,PAN}. */
  private static void stem(String words, Map<String, PieceRecipe.StemShare> mix) {
    int equals = words.indexOf('=');
    if (equals < 1 || equals == words.length() - 1) {
      throw new UsageException("--stem wants ROLE=FILE[@DB[,PAN]], not '" + words + "'");
    }
    String file = words.substring(equals + 1);
    double db = 0;
    Double pan = null;
    int at = file.lastIndexOf('@');
    if (at > 0 && !Files.exists(Path.of(file))) {
      String[] numbers = file.substring(at + 1).split(",");
      try {
        db = Double.parseDouble(numbers[0].trim());
        pan = numbers.length > 1 ? Double.valueOf(numbers[1].trim()) : null;
      } catch (NumberFormatException e) {
        throw new UsageException("--stem wants ROLE=FILE[@DB[,PAN]], not '" + words + "'");
      }
      file = file.substring(0, at);
    }
    if (mix.put(words.substring(0, equals), new PieceRecipe.StemShare(path(file), db, pan))
        != null) {
      throw new UsageException("two stems are for the role " + words.substring(0, equals));
    }
  }

  private static Path path(String words) {
    try {
      return Path.of(words);
    } catch (InvalidPathException e) {
      throw new UsageException("no file can be called '" + words + "'");
    }
  }

  private static List<Double> numbers(String option, String words) {
    List<Double> numbers = new ArrayList<>();
    for (String part : words.split(",")) {
      try {
        numbers.add(Double.parseDouble(part.trim()));
      } catch (NumberFormatException e) {
        throw new UsageException(option + " wants numbers, not '" + part + "'");
      }
    }
    return numbers;
  }
}
