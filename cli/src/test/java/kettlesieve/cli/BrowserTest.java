package kettlesieve.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import kettlesieve.core.comparison.Comparison;
import kettlesieve.core.comparison.ComparisonFile;
import kettlesieve.core.comparison.Excerpt;
import kettlesieve.core.comparison.ListeningSheet;
import kettlesieve.core.comparison.TimeSpan;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.JavascriptExecutor;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;

/** The listening sheet in a real browser, from disk, as a listener uses it. */
class BrowserTest {
  private static final Path BROWSER = Path.of("/usr/bin/chromium");
  private static final Path DRIVER = Path.of("/usr/bin/chromedriver");

  @TempDir private Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();
  private ChromeDriver browser;

  @BeforeEach
  void open() {
    boolean there = Files.isExecutable(BROWSER) && Files.isExecutable(DRIVER);
    if (!there) {
      System.out.println("SKIPPED: no chromium with its driver, the listening sheet is not tried");
    }
    assumeTrue(there, "no browser");
    ChromeOptions options = new ChromeOptions();
    options.setBinary(BROWSER.toFile());
    options.addArguments(
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-dev-shm-usage",
        "--user-data-dir=" + folder.resolve("profile"),
        "--window-size=1000,900",
        "--autoplay-policy=no-user-gesture-required");
    options.setExperimentalOption(
        "prefs",
        Map.of(
            "download.default_directory",
            folder.resolve("saved").toString(),
            "download.prompt_for_download",
            false));
    browser =
        new ChromeDriver(
            new ChromeDriverService.Builder()
                .usingDriverExecutable(DRIVER.toFile())
                .usingAnyFreePort()
                .build(),
            options);
  }

  @AfterEach
  void close() {
    if (browser != null) {
      browser.quit();
    }
  }

  private int run(String... words) {
    return Kettle.run(words, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String wav(String name, double noise) throws Exception {
    return Tapes.make(folder.resolve(name), 6, noise);
  }

  private String made() throws Exception {
    String file = folder.resolve("lamp.sieve").toString();
    String[] words = {
      "new",
      file,
      "--job",
      "denoise",
      "--source",
      wav("tape.wav", 0.01),
      "--version",
      "Mild=" + wav("mild.wav", 0.005),
      "--version",
      "Strong=" + wav("strong.wav", 0.001)
    };
    assertThat(run(words)).isZero();
    Comparison c = ComparisonFile.load(Path.of(file));
    ComparisonFile.save(
        c.withExcerpts(
            List.of(
                new Excerpt("one", new TimeSpan(0, 2)), new Excerpt("two", new TimeSpan(3, 5)))),
        Path.of(file));
    return file;
  }

  private void load(Path sheet) {
    browser.get(sheet.resolve("listen.html").toUri().toString());
    // Nothing is fetched, and no error stands in the log.
    assertThat(browser.manage().logs().get("browser").getAll()).isEmpty();
  }

  private Object script(String words) {
    return ((JavascriptExecutor) browser).executeScript(words);
  }

  private static void await(BooleanSupplier condition) {
    Awaitility.await().atMost(Duration.ofSeconds(20)).until(condition::getAsBoolean);
  }

  /** The letters that sound: running, and not silent. */
  private Object sounding() {
    return script(
        "return Object.keys(audio).filter(l => !audio[l].paused && audio[l].volume > 0).join()");
  }

  private Path saved() {
    Path saved = folder.resolve("saved");
    Path[] found = new Path[1];
    await(
        () -> {
          try (Stream<Path> files = Files.list(saved)) {
            found[0] = files.filter(f -> f.toString().endsWith(".json")).findFirst().orElse(null);
          } catch (java.io.IOException e) {
            return false;
          }
          return found[0] != null;
        });
    return found[0];
  }

  @Test
  void aListenerPlaysSwitchesRatesByKeysAndSaves() throws Exception {
    String file = made();
    Path sheet = folder.resolve("sheet");
    assertThat(run("sheet", file, "--out", sheet.toString())).as(err.toString()).isZero();
    load(sheet);
    WebElement body = browser.findElement(By.tagName("body"));
    body.sendKeys("a");
    await(() -> "A".equals(sounding()));
    await(() -> ((Number) script("return audio.A.currentTime")).doubleValue() > 0.3);
    double before = ((Number) script("return audio.A.currentTime")).doubleValue();
    body.sendKeys("b");
    await(() -> "B".equals(sounding()));
    // In place: the other goes on where the first was.
    double after = ((Number) script("return audio.B.currentTime")).doubleValue();
    assertThat(after).isBetween(before - 0.1, before + 2);
    // It comes round again within its passage.
    body.sendKeys("2");
    await(() -> ((Number) script("return audio.B.currentTime")).doubleValue() > 2.2);
    script("SHEET.letters.forEach(l => audio[l].currentTime = SHEET.loops[1].to - 0.1)");
    await(() -> ((Number) script("return audio.B.currentTime")).doubleValue() < 3.5);
    assertThat("B").isEqualTo(sounding());

    WebElement save = browser.findElement(By.id("save"));
    save.click();
    assertThat(browser.findElement(By.id("said")).getText()).contains("not placed yet");
    ListeningSheet key = ComparisonFile.load(Path.of(file)).sheets().get(0);
    for (String passage : List.of("1", "2")) {
      body.sendKeys(passage);
      for (String letter : key.letters().keySet()) {
        WebElement token = browser.findElement(By.id("token-" + letter));
        assertThat(token.getAriaRole()).isEqualTo("slider");
        // All letters are in sight at once, and the first key already moves.
        assertThat(token.getRect().getY() + token.getRect().getHeight()).isLessThan(800);
        token.sendKeys(Keys.ARROW_RIGHT);
        assertThat(token.getDomAttribute("aria-valuenow")).isEqualTo("51");
        // The same element all the time: a screen reader that holds it does not lose it.
        assertThat(browser.switchTo().activeElement()).isEqualTo(token);
        token.sendKeys(key.letters().get(letter).equals("v2") ? Keys.END : Keys.PAGE_DOWN);
      }
    }
    browser.findElement(By.id("listener")).sendKeys("Ö. \"K\" – 灯");
    save.click();
    Path answer = saved();
    assertThat(run("answers", file, answer.toString())).as(err.toString()).isZero();
    assertThat(out.toString()).contains("1 answer").containsPattern("100\\.0 .*Strong");
    assertThat(ComparisonFile.load(Path.of(file)).sheets().get(0).answers().get(0).listener())
        .isEqualTo("Ö. \"K\" – 灯");
    // Every control has a name.
    Object unnamed =
        script(
            "return [...document.querySelectorAll('button,input,[role=slider]')].filter(e =>"
                + " !(e.textContent.trim() || e.getAttribute('aria-label') ||"
                + " (e.labels && e.labels.length))).length");
    assertThat(((Number) unnamed).intValue()).isZero();
  }

  @Test
  void pairsArePreferredAndComeBack() throws Exception {
    String file = made();
    Path sheet = folder.resolve("pairs");
    assertThat(run("sheet", file, "--out", sheet.toString(), "--kind", "pairs")).isZero();
    load(sheet);
    ListeningSheet key = ComparisonFile.load(Path.of(file)).sheets().get(0);
    String strong =
        key.letters().entrySet().stream()
            .filter(e -> e.getValue().equals("v2"))
            .findFirst()
            .orElseThrow()
            .getKey();
    for (int i = 0; i < 2; i++) {
      browser.findElement(By.id("prefer-" + strong)).sendKeys(Keys.ENTER);
    }
    browser.findElement(By.id("save")).sendKeys(Keys.ENTER);
    assertThat(run("answers", file, saved().toString())).as(err.toString()).isZero();
    assertThat(out.toString()).contains("2 trials, 0 circular triads");
    assertThat(out.toString().lines().filter(l -> l.contains("Strong")).findFirst().orElse(""))
        .containsPattern("1\\.0");
  }
}
