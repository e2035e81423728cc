package kettlesieve.app;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaCall;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.properties.HasName;
import com.tngtech.archunit.core.domain.properties.HasOwner;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The window's structure: models know no views, views know no work, steps know no other step. */
class ArchitectureTest {
  private static final String ROOT = "kettlesieve.app.";
  private static final List<String> STEPS =
      List.of("gather", "match", "listen", "measure", "decide");
  private static final JavaClasses APP =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages("kettlesieve.app");

  private static void sees(String name, int atLeast) {
    long seen = APP.stream().filter(c -> c.getPackageName().startsWith(ROOT + name)).count();
    assertThat(seen).as("classes seen in " + name).isGreaterThanOrEqualTo(atLeast);
  }

  @Test
  void modelsKnowNoViews() {
    sees("model", 12);
    noClasses()
        .that()
        .resideInAPackage(ROOT + "model..")
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "javafx.scene..",
            "javafx.stage..",
            ROOT + "shared..",
            ROOT + "frame..",
            ROOT + "gather..",
            ROOT + "match..",
            ROOT + "listen..",
            ROOT + "measure..",
            ROOT + "decide..")
        .check(APP);
  }

  @Test
  void viewsReadTheModelAndDoNoWorkThemselves() {
    for (String step : STEPS) {
      sees(step, 2);
    }
    noClasses()
        .that()
        .resideOutsideOfPackages(ROOT + "model..", "kettlesieve.app")
        .should()
        .dependOnClassesThat()
        .haveNameMatching(
            "kettlesieve\\.core\\.(work\\.(Conductor|ResultStore|PreparedSource)"
                + "|media\\.MediaReader|match\\.Matcher|rig\\.Rig)")
        .check(APP);
  }

  @Test
  void stepsDoNotKnowEachOther() {
    for (String step : STEPS) {
      String[] others =
          STEPS.stream()
              .filter(s -> !s.equals(step))
              .map(s -> ROOT + s + "..")
              .toArray(String[]::new);
      noClasses()
          .that()
          .resideInAPackage(ROOT + step + "..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(others)
          .check(APP);
      noClasses()
          .that()
          .resideInAPackage(ROOT + step + "..")
          .should()
          .dependOnClassesThat()
          .resideInAPackage(ROOT + "frame..")
          .check(APP);
    }
  }

  /** Files appear whole or not at all: nobody writes one but through {@code WholeFile}. */
  @Test
  void filesAreWrittenWholeOrNotAtAll() {
    noClasses()
        .that()
        .resideInAPackage("kettlesieve.app..")
        .should()
        .callMethodWhere(
            JavaCall.Predicates.target(
                    HasOwner.Predicates.With.owner(
                        JavaClass.Predicates.equivalentTo(java.nio.file.Files.class)))
                .and(
                    JavaCall.Predicates.target(
                        HasName.Predicates.nameMatching(
                            "write|writeString|newOutputStream|newBufferedWriter|copy"))))
        .orShould()
        .dependOnClassesThat()
        .haveNameMatching("java\\.io\\.(FileOutputStream|FileWriter|RandomAccessFile)")
        .check(APP);
  }
}
