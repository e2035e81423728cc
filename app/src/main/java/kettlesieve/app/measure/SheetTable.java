package kettlesieve.app.measure;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContentDisplay;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import kettlesieve.app.model.Workspace;
import kettlesieve.app.model.sheet.Group;
import kettlesieve.app.model.sheet.SheetLayout;
import kettlesieve.app.model.sheet.SheetModel;
import kettlesieve.app.shared.Hint;
import kettlesieve.app.shared.Ink;
import kettlesieve.app.shared.OwnKeys;
import kettlesieve.app.shared.Texts;
import kettlesieve.app.shared.VersionName;
import kettlesieve.app.shared.VersionSign;
import kettlesieve.core.measure.Address;
import kettlesieve.core.measure.Axis;
import kettlesieve.core.score.Places;

/**
 * Versions down, readings across under their questions. Versions and their overall score stay where
 * they are while readings scroll, heads stay while versions scroll; only the cells that are seen
 * are made. Heads sort, questions fold to their score. It is one stop of Tab: arrows, Home, End and
 * the page keys move through it.
 *
 * <p>Over 400 lines because rows, heads and the two bars are laid out in one pass from the same
 * widths; the model, the keys and the labels are classes of their own.
 */
final class SheetTable extends Region implements OwnKeys {
  private static final double BAR = 44;
  private static final double AXIS_HEIGHT = 26;
  private static final double ROW = 27;
  private static final double EXCERPT_ROW = 24;
  private static final double OVERALL = 62;
  private static final double LEAST_NAME = 150;
  private static final double MOST_NAME = 330;
  private static final double NAME_SHARE = 0.2;
  private static final double SCROLLBAR = 12;
  private static final double FIRST_WIDTH = 600;

  private final Workspace workspace;
  private final SheetLayout layout;
  private final SheetKeys keys;
  private final Pane frozenHead = new Pane();
  private final Pane frozenBody = new Pane();
  private final Pane head = new Pane();
  private final Pane body = new Pane();
  private final ScrollBar across = new ScrollBar();
  private final ScrollBar down = new ScrollBar();
  private final Map<Address, ToggleButton> cells = new HashMap<>();
  private SheetModel model;
  private double[] left = {0};
  private double[] top = {0};
  private double headHeight;
  private double nameWidth = LEAST_NAME;
  private Runnable seen = () -> {};
  private Runnable opened = () -> {};

  SheetTable(Workspace workspace) {
    this.workspace = workspace;
    this.layout = workspace.sheetLayout();
    this.keys = new SheetKeys(workspace, this);
    getStyleClass().add("sheet-table");
    setFocusTraversable(true);
    setId("sheet-table");
    setOnMousePressed(e -> requestFocus());
    focusedProperty()
        .addListener(
            (o, was, is) -> {
              if (is && workspace.selection().addressProperty().get() == null) {
                keys.go(0, 0);
              }
            });
    across.setId("sheet-across");
    across.setOrientation(Orientation.HORIZONTAL);
    down.setOrientation(Orientation.VERTICAL);
    for (Pane pane : List.of(frozenHead, frozenBody, head, body)) {
      Rectangle clip = new Rectangle();
      clip.widthProperty().bind(pane.widthProperty());
      clip.heightProperty().bind(pane.heightProperty());
      pane.setClip(clip);
    }
    getChildren().addAll(body, frozenBody, head, frozenHead, across, down);
    // Their places come from the rows and columns, not from what they would like to have.
    getChildren().forEach(c -> c.setManaged(false));
    across.valueProperty().addListener((o, was, is) -> fillSeen());
    down.valueProperty().addListener((o, was, is) -> fillSeen());
    setOnScroll(
        e -> {
          boolean sideways = e.isShiftDown() || Math.abs(e.getDeltaX()) > Math.abs(e.getDeltaY());
          ScrollBar bar = sideways ? across : down;
          double delta = e.getDeltaX() != 0 ? e.getDeltaX() : e.getDeltaY();
          bar.setValue(Math.max(0, Math.min(bar.getMax(), bar.getValue() - delta)));
          e.consume();
        });
    widthProperty().addListener((o, was, is) -> arrange());
    heightProperty().addListener((o, was, is) -> arrange());
    workspace.selection().addressProperty().addListener((o, was, is) -> select());
  }

  /** Fills the sheet. */
  void show(SheetModel shown) {
    model = shown;
    top = new double[shown.rows().size() + 1];
    for (int i = 0; i < shown.rows().size(); i++) {
      top[i + 1] = top[i] + (shown.rows().get(i).main() ? ROW : EXCERPT_ROW);
    }
    arrange();
  }

  /** Called whenever other cells are made. */
  void onSeen(Runnable listener) {
    seen = listener;
  }

  /** Called when the selected cell is to be opened. */
  void onOpened(Runnable listener) {
    opened = listener;
  }

  // --- keys ---

  @Override
  public boolean takes(KeyEvent key) {
    return keys.takes(key);
  }

  /** What is shown; null as long as nothing is. */
  SheetModel model() {
    return model;
  }

  /** Rows that are seen at once, at least one. */
  int page() {
    return Math.max(1, (int) (body.getHeight() / ROW) - 1);
  }

  /** Does what opening the selected cell means. */
  void open() {
    opened.run();
  }

  /** Scrolls so that a cell is seen whole. */
  void reveal(int row, int column) {
    double high = top[row];
    double low = top[row + 1] - body.getHeight();
    down.setValue(Math.max(Math.max(0, low), Math.min(high, down.getValue())));
    double right = left[column + 1] - body.getWidth();
    across.setValue(Math.max(Math.max(0, right), Math.min(left[column], across.getValue())));
  }

  /** Height at which so many rows are seen, or all if they are fewer. */
  double heightOf(int rows) {
    int shown = Math.min(rows, top.length - 1);
    return headHeight + top[shown] + SCROLLBAR + 4;
  }

  // --- places ---

  private void arrange() {
    if (model == null || getWidth() <= 0) {
      return;
    }
    double widest = 0;
    for (SheetModel.Row row : model.rows()) {
      widest = Math.max(widest, textWidth(row.entry().version().label()) + 44);
    }
    double[] widths = new double[model.columns().size()];
    int lines = 1;
    double sum = 0;
    for (int c = 0; c < widths.length; c++) {
      widths[c] = least(model.columns().get(c));
      sum += widths[c];
      lines = Math.max(lines, lines(model.columns().get(c), widths[c]));
    }
    headHeight = AXIS_HEIGHT + 20 + 16 * Math.min(3, lines);
    double room = getWidth() - OVERALL - SCROLLBAR;
    // Readings scroll and labels do not: these have their share before all readings are seen.
    double wanted = Math.min(MOST_NAME, widest);
    nameWidth =
        Math.max(LEAST_NAME, Math.min(wanted, Math.max(room - sum, NAME_SHARE * getWidth())));
    double spare = room - nameWidth - sum;
    int readings = (int) model.columns().stream().filter(c -> c.measure() != null).count();
    left = new double[widths.length + 1];
    for (int c = 0; c < widths.length; c++) {
      boolean grows = model.columns().get(c).measure() != null;
      double more = grows && spare > 0 ? Math.min(26, spare / readings) : 0;
      left[c + 1] = left[c] + widths[c] + more;
    }
    double frozen = nameWidth + OVERALL;
    double seenWidth = Math.max(0, getWidth() - frozen - SCROLLBAR);
    double seenHeight = Math.max(0, getHeight() - headHeight - SCROLLBAR);
    scale(across, left[left.length - 1], seenWidth);
    scale(down, top[top.length - 1], seenHeight);
    place(frozenHead, 0, 0, frozen, headHeight);
    place(head, frozen, 0, seenWidth, headHeight);
    place(frozenBody, 0, headHeight, frozen, seenHeight);
    place(body, frozen, headHeight, seenWidth, seenHeight);
    place(across, frozen, getHeight() - SCROLLBAR, seenWidth, SCROLLBAR);
    place(down, getWidth() - SCROLLBAR, headHeight, SCROLLBAR, seenHeight);
    fillSeen();
  }

  private static void place(Region region, double x, double y, double width, double height) {
    region.resizeRelocate(x, y, width, height);
  }

  private static void scale(ScrollBar bar, double whole, double visible) {
    double most = Math.max(0, whole - visible);
    bar.setVisible(most > 0.5);
    bar.setMin(0);
    bar.setMax(most);
    bar.setVisibleAmount(whole <= 0 ? 1 : most * visible / whole);
    bar.setUnitIncrement(ROW);
    bar.setBlockIncrement(Math.max(ROW, visible - ROW));
    bar.setValue(Math.min(bar.getValue(), most));
  }

  /** The least width of a column: no word of its head is broken. */
  private static double least(SheetModel.Column column) {
    if (column.measure() == null) {
      return column.group() == Group.INFO ? 22 : column.group() == Group.AGAINST ? 54 : 50;
    }
    double widest = 0;
    for (String word : words(column)) {
      widest = Math.max(widest, headWidth(word));
    }
    return Math.max(54, widest + 12);
  }

  /** Where a head may go to the next line: after spaces and hyphens. */
  private static String[] words(SheetModel.Column column) {
    return column.title().split(" |(?<=-)");
  }

  /** The toolkit breaks words anywhere rather than after a hyphen. */
  private static String breakable(String title) {
    return title.replace("-", "-\n");
  }

  private static int lines(SheetModel.Column column, double width) {
    int lines = 1;
    String line = "";
    for (String word : words(column)) {
      String longer = line.isEmpty() ? word : line + " " + word;
      if (headWidth(longer) > width - 10 && !line.isEmpty()) {
        lines++;
        line = word;
      } else {
        line = longer;
      }
    }
    return lines;
  }

  private static double headWidth(String words) {
    return width(words, "Source Sans 3 SemiBold", 12.5);
  }

  private static double textWidth(String words) {
    return width(words, "Source Sans 3 SemiBold", 14);
  }

  private static double width(String words, String font, double size) {
    Text text = new Text(words);
    text.setFont(Font.font(font, size));
    return text.getLayoutBounds().getWidth();
  }

  // --- what is seen ---

  private void fillSeen() {
    if (model == null) {
      return;
    }
    fillHead();
    cells.clear();
    List<Node> names = new ArrayList<>();
    List<Node> figures = new ArrayList<>();
    double above = down.getValue();
    // A window that is not laid out yet shows the first rows and columns.
    double seenHeight = body.getHeight() > 0 ? body.getHeight() : FIRST_WIDTH;
    for (int r = 0; r < model.rows().size(); r++) {
      if (top[r + 1] <= above || top[r] >= above + seenHeight) {
        continue;
      }
      SheetModel.Row row = model.rows().get(r);
      double y = top[r] - above;
      double height = top[r + 1] - top[r];
      addNames(row, y, height, names);
      addFigures(row, y, height, figures);
    }
    frozenBody.getChildren().setAll(names);
    body.getChildren().setAll(figures);
    select();
    seen.run();
  }

  private void addNames(SheetModel.Row row, double y, double height, List<Node> into) {
    Label name =
        row.main()
            ? VersionName.strong(workspace, row.entry().version().label())
            : Texts.of(row.excerpt(), "quiet", "small");
    if (!row.main()) {
      name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
      Hint.set(name, row.entry().version().label());
    }
    HBox who = new HBox(7, name);
    if (row.main()) {
      who.getChildren().add(0, VersionSign.of(row.index(), 18));
      who.setPadding(new Insets(0, 6, 0, 4));
    } else {
      who.setPadding(new Insets(0, 6, 0, 29));
    }
    who.setAlignment(Pos.CENTER_LEFT);
    put(who, 0, y, nameWidth, height, into);
    SheetModel.Cell overall = model.overall(row);
    Label score = Texts.of(overall.text(), row.main() ? "strong" : "quiet");
    Label place = Texts.of(Places.words(row.entry().ranked()), "quiet", "small");
    HBox box = new HBox(6, place, score);
    box.setAlignment(Pos.CENTER_RIGHT);
    box.setPadding(new Insets(0, 7, 0, 2));
    Hint.set(box, overall.hint());
    if (row.main()) {
      score.setId("overall-" + row.entry().version().id());
    }
    put(box, nameWidth, y, OVERALL, height, into);
  }

  private void addFigures(SheetModel.Row row, double y, double height, List<Node> into) {
    double before = across.getValue();
    double seenWidth = body.getWidth() > 0 ? body.getWidth() : FIRST_WIDTH;
    for (int c = 0; c < model.columns().size(); c++) {
      if (left[c + 1] <= before || left[c] >= before + seenWidth) {
        continue;
      }
      SheetModel.Column column = model.columns().get(c);
      SheetModel.Cell cell = model.cell(row, column);
      double x = left[c] - before;
      double width = left[c + 1] - left[c];
      Region node = column.measure() == null ? score(cell, column) : button(row, column, cell);
      put(node, x, y, width, height, into);
    }
  }

  private static void put(
      Region node, double x, double y, double width, double height, List<Node> into) {
    node.setMinSize(width, height);
    node.setPrefSize(width, height);
    node.setMaxSize(width, height);
    node.relocate(x, y);
    into.add(node);
  }

  private static Region score(SheetModel.Cell cell, SheetModel.Column column) {
    Label label = Texts.of(cell.text(), column.group().axis().id() + "-text");
    label.setAlignment(Pos.CENTER_RIGHT);
    label.setPadding(new Insets(0, 8, 0, 4));
    if (!cell.hint().isEmpty()) {
      Hint.set(label, cell.hint());
    }
    return label;
  }

  private Region button(SheetModel.Row row, SheetModel.Column column, SheetModel.Cell cell) {
    Address address = SheetModel.address(row, column);
    ToggleButton button = new ToggleButton();
    button.getStyleClass().setAll("toggle-button", "sheet-cell");
    String where = row.main() ? "" : "@" + row.excerpt();
    button.setId("cell-" + address.version() + "-" + address.measure() + where);
    button.setFocusTraversable(false);
    button.setOnAction(
        e -> {
          workspace.selection().reading(address);
          select();
          requestFocus();
        });
    Label text = row.main() ? Texts.of(cell.text()) : Texts.of(cell.text(), "quiet", "small");
    VBox content = new VBox(1, text);
    if (!Double.isNaN(cell.score())) {
      content.getChildren().add(bar(cell.score(), column.group().axis()));
    }
    content.setAlignment(Pos.CENTER_RIGHT);
    button.setGraphic(content);
    button.setAccessibleText(cell.spoken());
    Hint.set(button, cell.hint());
    cells.put(address, button);
    return button;
  }

  private static Node bar(double score, Axis axis) {
    StackPane bar = new StackPane(bar(BAR, Ink::rule), bar(BAR * score / 100, () -> Ink.of(axis)));
    bar.setMaxWidth(BAR);
    bar.setMinHeight(4);
    bar.setAlignment(Pos.CENTER_LEFT);
    return bar;
  }

  private static Rectangle bar(double width, Supplier<Color> color) {
    Rectangle bar = new Rectangle(width, 4);
    bar.fillProperty().bind(Ink.bound(color));
    return bar;
  }

  /** Marks the cell of the selected reading. */
  private void select() {
    Address chosen = workspace.selection().addressProperty().get();
    cells.forEach((address, cell) -> cell.setSelected(address.equals(chosen)));
  }

  // --- heads ---

  private void fillHead() {
    double wordsHeight = headHeight - AXIS_HEIGHT;
    List<Node> fixed = new ArrayList<>();
    Region version = words("Version", "", Pos.BOTTOM_LEFT);
    put(version, 0, AXIS_HEIGHT, nameWidth, wordsHeight, fixed);
    Region overall =
        sortHead(
            "Overall", "of 100", SheetModel.OVERALL, "The score under the profile", wordsHeight);
    put(overall, nameWidth, AXIS_HEIGHT, OVERALL, wordsHeight, fixed);
    frozenHead.getChildren().setAll(fixed);
    List<Node> heads = new ArrayList<>();
    double before = across.getValue();
    Group last = null;
    for (int c = 0; c < model.columns().size(); c++) {
      SheetModel.Column column = model.columns().get(c);
      if (column.group() != last) {
        last = column.group();
        Group group = last;
        int span = (int) model.columns().stream().filter(x -> x.group() == group).count();
        double width = left[c + span] - left[c];
        put(groupHead(group), left[c] - before, 0, width - 2, AXIS_HEIGHT, heads);
      }
      if (column.measure() == null && column.group() == Group.INFO) {
        continue;
      }
      String tip =
          column.measure() == null
              ? (column.group().scored() ? "The score of " : "The place: ") + column.group().title()
              : column.title() + ": " + column.measure().meaning();
      put(
          sortHead(breakable(column.title()), column.unit(), column.id(), tip, wordsHeight),
          left[c] - before,
          AXIS_HEIGHT,
          left[c + 1] - left[c],
          wordsHeight,
          heads);
    }
    head.getChildren().setAll(heads);
  }

  private Region groupHead(Group group) {
    boolean folded = layout.folded(group);
    String axis = group.axis().id();
    Button button =
        new Button(folded && !group.scored() ? "▸" : (folded ? "▸ " : "▾ ") + group.title());
    button.getStyleClass().setAll("button", axis + "-text", "axis-head", "axis-" + axis);
    button.setAlignment(Pos.CENTER_LEFT);
    button.setId("fold-" + group.id());
    Hint.set(
        button,
        group.title()
            + ": "
            + group.question()
            + "\nClick to "
            + (folded ? "unfold" : "fold")
            + " it.");
    button.setAccessibleText((folded ? "Unfold " : "Fold ") + group.title());
    button.setOnAction(e -> layout.fold(group));
    return button;
  }

  private Button sortHead(String title, String unit, String column, String tip, double height) {
    boolean own = column.equals(layout.sortedBy());
    String arrow = own ? (layout.worstFirst() ? " ↑" : " ↓") : "";
    Button button = new Button();
    Region words = words(title + arrow, unit, Pos.BOTTOM_RIGHT);
    words.setPrefHeight(height);
    button.setGraphic(words);
    words.maxWidthProperty().bind(button.widthProperty());
    words.prefWidthProperty().bind(button.widthProperty());
    button.setContentDisplay(ContentDisplay.GRAPHIC_ONLY);
    button.getStyleClass().setAll("button", "head-button");
    button.setAlignment(Pos.BOTTOM_RIGHT);
    button.setId("sort-" + column);
    button.setAccessibleText("Sort by " + title);
    Hint.set(button, tip + "\nClick to sort.");
    button.setOnAction(e -> layout.sort(column));
    return button;
  }

  private static Region words(String title, String unit, Pos side) {
    Label name = Texts.wrapped(title, "column-head");
    name.setAlignment(side);
    name.setMinHeight(Region.USE_PREF_SIZE);
    name.setTextAlignment(side == Pos.BOTTOM_LEFT ? TextAlignment.LEFT : TextAlignment.RIGHT);
    name.setLineSpacing(-2);
    Label unitLabel = Texts.of(unit.isEmpty() ? " " : unit, "quiet", "small");
    VBox box = new VBox(-1, name, unitLabel);
    box.setAlignment(side);
    box.setPadding(new Insets(0, 6, 2, 4));
    return box;
  }
}
