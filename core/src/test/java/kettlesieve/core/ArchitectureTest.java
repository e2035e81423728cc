package kettlesieve.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaCall;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.properties.HasName;
import com.tngtech.archunit.core.domain.properties.HasOwner;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.Architectures;
import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.measure.Measure;
import kettlesieve.core.measure.Measures;
import org.junit.jupiter.api.Test;

/**
 * What keeps the structure easy to see, as plain tests: each asserts first that it saw the classes
 * it speaks of, so that a rule over nothing cannot pass.
 */
class ArchitectureTest {
  private static final String ROOT = "kettlesieve.core.";
  private static final List<String> IN_ORDER =
      List.of(
          "task",
          "audio",
          "signal",
          "media",
          "comparison",
          "ground",
          "match",
          "ownership",
          "fairness",
          "measure",
          "score",
          "roundup",
          "work");
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages("kettlesieve.core");

  private static void sees(String name, int atLeast) {
    long seen = CORE.stream().filter(c -> c.getPackageName().startsWith(ROOT + name)).count();
    assertThat(seen).as("classes seen in " + name).isGreaterThanOrEqualTo(atLeast);
  }

  @Test
  void packagesFollowTheOrderOfTheData() {
    var layers = Architectures.layeredArchitecture().consideringOnlyDependenciesInLayers();
    for (String name : IN_ORDER) {
      sees(name, 2);
      layers = layers.layer(name).definedBy(ROOT + name + "..");
    }
    for (String beside : List.of("report", "listen", "rig", "picture", "testpiece")) {
      sees(beside, 4);
      layers = layers.layer(beside).definedBy(ROOT + beside + "..");
    }
    for (int i = 0; i < IN_ORDER.size(); i++) {
      String[] before = IN_ORDER.subList(0, i).toArray(String[]::new);
      layers =
          i == 0
              ? layers.whereLayer(IN_ORDER.get(i)).mayNotAccessAnyLayer()
              : layers.whereLayer(IN_ORDER.get(i)).mayOnlyAccessLayers(before);
    }
    layers
        .whereLayer("picture")
        .mayOnlyAccessLayers("task", "audio", "signal")
        .whereLayer("report")
        .mayOnlyAccessLayers(
            "task",
            "audio",
            "signal",
            "picture",
            "media",
            "comparison",
            "match",
            "fairness",
            "measure",
            "score",
            "roundup")
        .whereLayer("listen")
        .mayOnlyAccessLayers("task", "audio", "signal", "media", "comparison", "match")
        .whereLayer("testpiece")
        .mayOnlyAccessLayers("task", "audio", "signal", "media", "comparison", "ground")
        .whereLayer("rig")
        .mayOnlyAccessLayers("task", "audio", "signal", "media", "comparison", "ground", "match")
        .check(CORE);
  }

  /** Walks first, then the families; one that serves several jobs comes after those it asks. */
  @Test
  void familiesOfMeasuresAskThoseBeforeThem() {
    List<String> families =
        List.of("pass", "reference", "room", "noise", "stems", "stretch", "voice", "clip");
    for (int i = 0; i < families.size(); i++) {
      String family = ROOT + "measure." + families.get(i);
      sees("measure." + families.get(i), 4);
      List<String> allowed = new ArrayList<>(List.of(ROOT + "measure", family));
      families.subList(0, i).forEach(f -> allowed.add(ROOT + "measure." + f));
      allowed.remove(ROOT + "measure.reference");
      if (List.of("reference", "stems").contains(families.get(i))) {
        // With true stems the three questions are answered by the separation evaluation.
        allowed.add(ROOT + "measure.reference");
      }
      noClasses()
          .that()
          .resideInAPackage(family + "..")
          .should()
          .dependOnClassesThat(
              JavaClass.Predicates.resideInAPackage(ROOT + "measure..")
                  .and(
                      DescribedPredicate.not(
                          JavaClass.Predicates.resideInAnyPackage(allowed.toArray(String[]::new)))))
          .check(CORE);
      // The model of a result knows no family, so there is no circle.
      noClasses()
          .that()
          .resideInAPackage(ROOT + "measure")
          .should()
          .dependOnClassesThat()
          .resideInAPackage(family + "..")
          .check(CORE);
    }
  }

  @Test
  void noInterfaceCode() {
    assertThat(CORE).hasSizeGreaterThan(200);
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(
            "javafx..",
            "javax.swing..",
            "java.awt",
            "java.awt.event..",
            "java.awt.font..",
            "kettlesieve.app..")
        .check(CORE);
  }

  @Test
  void measuresKeepNoState() {
    long measures = CORE.stream().filter(c -> c.isAssignableTo(Measure.class)).count();
    assertThat(measures).isGreaterThanOrEqualTo(Measures.all().size()).isGreaterThan(25);
    classes()
        .that()
        .areAssignableTo(Measure.class)
        .and()
        .areNotInterfaces()
        .should()
        .haveOnlyFinalFields()
        .andShould()
        .bePublic()
        .check(CORE);
  }

  /**
   * A type that makes its own subtypes while it is initialised locks up as soon as one thread
   * begins with it and another with one of them (Java Language Specification 12.4.2).
   */
  @Test
  void noTypeMakesItsSubtypesWhileItIsInitialised() {
    long initialisers = CORE.stream().filter(c -> c.getStaticInitializer().isPresent()).count();
    assertThat(initialisers).isGreaterThan(50);
    List<String> makers = new ArrayList<>();
    for (JavaClass type : CORE) {
      type.getStaticInitializer()
          .ifPresent(
              i ->
                  i.getConstructorCallsFromSelf().stream()
                      .map(call -> call.getTargetOwner())
                      .filter(made -> !made.equals(type) && made.isAssignableTo(type.getName()))
                      .filter(made -> !type.isEnum() && !made.isAnonymousClass())
                      .forEach(made -> makers.add(type.getName() + " makes " + made.getName())));
    }
    assertThat(makers).isEmpty();
  }

  @Test
  void noCatchAllNames() {
    assertThat(CORE).isNotEmpty();
    for (String ending : List.of("Util", "Utils", "Helper", "Manager")) {
      noClasses().should().haveSimpleNameEndingWith(ending).check(CORE);
    }
  }

  /** Files appear whole or not at all: nobody writes one but through {@code WholeFile}. */
  @Test
  void filesAreWrittenWholeOrNotAtAll() {
    noClasses()
        .that()
        .resideOutsideOfPackage("kettlesieve.core.media")
        .and()
        .doNotHaveFullyQualifiedName("kettlesieve.core.rig.OutsideRun")
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
        .check(CORE);
  }

  /** A newcomer is told at every door what the room is for. */
  @Test
  void everyPackageHasItsPage() throws Exception {
    java.nio.file.Path root = java.nio.file.Path.of("src/main/java");
    List<String> without = new ArrayList<>();
    try (var folders = java.nio.file.Files.walk(root)) {
      for (var folder : folders.filter(java.nio.file.Files::isDirectory).toList()) {
        boolean classes = folder.toFile().list((d, n) -> n.endsWith(".java")).length > 0;
        if (classes && !java.nio.file.Files.exists(folder.resolve("package-info.java"))) {
          without.add(folder.toString());
        }
      }
    }
    assertThat(without).isEmpty();
  }
}
