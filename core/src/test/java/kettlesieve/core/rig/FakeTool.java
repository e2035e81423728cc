package kettlesieve.core.rig;

import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Stands for an outside tool in tests: copies, fails, hangs, or writes rubbish, as it is told. */
public final class FakeTool {
  private FakeTool() {}

  public static void main(String[] words) throws Exception {
    Path input = Path.of(words[1]);
    Path output = Path.of(words[2]);
    switch (words[0]) {
      case "copy" -> Files.copy(input, output);
      case "stems" -> {
        Files.copy(input, output.resolve("vocals.wav"));
        Files.copy(input, output.resolve("drum kit.wav"));
        Files.writeString(output.resolve("log.txt"), "nothing to hear here");
      }
      case "fail" -> {
        System.out.println("reading " + input.getFileName());
        System.err.println("the licence of the amount " + words[3] + " has run out");
        System.exit(7);
      }
      case "hang" -> {
        System.out.println("thinking");
        Thread.sleep(600_000);
      }
      case "garbage" -> Files.write(output, "no sound".getBytes(StandardCharsets.UTF_8));
      case "spoil" -> {
        Files.copy(input, output);
        Files.write(input, new byte[100]);
      }
      case "eat" -> {
        Files.move(input, output);
      }
      case "cut" -> {
        byte[] whole = Files.readAllBytes(input);
        Files.write(output, java.util.Arrays.copyOf(whole, whole.length - 9000));
      }
      case "words" -> {
        Files.copy(input, output);
        for (int i = 3; i < words.length; i++) {
          System.out.println("[" + words[i] + "]");
        }
      }
      case "work" -> {
        var threads = ManagementFactory.getThreadMXBean();
        double x = 1;
        while (threads.getCurrentThreadCpuTime() < 700_000_000L) {
          x = Math.sin(x) + 1;
        }
        System.out.println(x);
        Files.copy(input, output);
      }
      default -> System.out.println("nothing is written");
    }
  }
}
