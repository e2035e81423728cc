package kettlesieve.app.decide;

import javafx.geometry.HPos;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import kettlesieve.app.model.Numbers;
import kettlesieve.app.model.Sentences;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.comparison.Version;
import kettlesieve.core.report.BestSetWords;
import kettlesieve.core.score.BestSet;

/** Who leads in which role, and what a set from all tools would gain. */
final class RoleLeaders extends GridPane {
  RoleLeaders(Workspace workspace, BestSet set) {
    setId("best-set");
    setHgap(16);
    setVgap(3);
    setPadding(new Insets(14, 0, 0, 0));
    add(Texts.of("Role by role", "strong"), 0, 0, 4, 1);
    int row = 1;
    for (var role : set.leaders().entrySet()) {
      BestSet.Leader leader = role.getValue();
      Label score = Texts.of(Numbers.fixed(leader.score(), 0));
      GridPane.setHalignment(score, HPos.RIGHT);
      Label name = VersionName.plain(workspace, leader.label());
      name.setMaxWidth(280);
      int index =
          workspace.comparison().versions().stream()
              .map(Version::id)
              .toList()
              .indexOf(leader.version());
      HBox who = new HBox(8, VersionSign.of(Math.max(0, index), 16), name);
      who.setAlignment(Pos.CENTER_LEFT);
      add(Texts.of(Sentences.begun(role.getKey()), "quiet"), 0, row);
      add(who, 1, row);
      add(score, 2, row);
      if (!leader.tied().isEmpty()) {
        add(DecideView.ties(leader.tied()), 3, row);
      }
      row++;
    }
    add(Texts.wrapped(BestSetWords.of(set), "small"), 0, row, 4, 1);
  }
}
