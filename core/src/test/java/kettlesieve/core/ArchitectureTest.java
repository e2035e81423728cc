package kettlesieve.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.library.Architectures;
import kettlesieve.core.measure.Measure;

@AnalyzeClasses(packages = "kettlesieve.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  private static final String[] IN_ORDER = {
    "signal", "media", "comparison", "match", "measure", "score", "report"
  };

  @ArchTest static final ArchRule packagesFollowTheOrderOfTheData = order();

  @ArchTest
  static final ArchRule noInterfaceCode =
      noClasses()
          .that()
          .resideInAPackage("kettlesieve.core..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("javafx..", "javax.swing..", "java.awt..", "kettlesieve.app..");

  @ArchTest
  static final ArchRule measuresAreFinalAndNamedPlainly =
      classes()
          .that()
          .implement(Measure.class)
          .should()
          .haveOnlyFinalFields()
          .andShould()
          .bePublic();

  @ArchTest
  static final ArchRule noCatchAllNames =
      noClasses()
          .should()
          .haveSimpleNameEndingWith("Util")
          .orShould()
          .haveSimpleNameEndingWith("Utils")
          .orShould()
          .haveSimpleNameEndingWith("Helper")
          .orShould()
          .haveSimpleNameEndingWith("Manager");

  private static ArchRule order() {
    var layers = Architectures.layeredArchitecture().consideringOnlyDependenciesInLayers();
    for (String name : IN_ORDER) {
      layers = layers.layer(name).definedBy("kettlesieve.core." + name + "..");
    }
    layers = layers.layer("listen").definedBy("kettlesieve.core.listen..");
    layers = layers.layer("rig").definedBy("kettlesieve.core.rig..");
    for (int i = 0; i < IN_ORDER.length; i++) {
      String[] before = java.util.Arrays.copyOf(IN_ORDER, i);
      layers =
          i == 0
              ? layers.whereLayer(IN_ORDER[i]).mayNotAccessAnyLayer()
              : layers.whereLayer(IN_ORDER[i]).mayOnlyAccessLayers(before);
    }
    return layers
        .whereLayer("listen")
        .mayOnlyAccessLayers("signal", "media", "comparison", "match")
        .whereLayer("rig")
        .mayOnlyAccessLayers("signal", "media", "comparison", "match");
  }
}
