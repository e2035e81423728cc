package kettlesieve.core.rig;

import kettlesieve.core.comparison.Job;

/** Something that makes versions: an outside command, or a stand-in in this process. */
public sealed interface RigTool {
  /** Its name for people. */
  String title();

  /** A word for file names. */
  String fileWord();

  /** Whether the amount changes anything. */
  boolean hasAmount();

  /** Whether it does a job. */
  boolean does(Job job);

  /**
   * An outside command.
   *
   * @param tool what is run
   */
  record Outside(CommandTool tool) implements RigTool {
    @Override
    public String title() {
      return tool.name();
    }

    @Override
    public String fileWord() {
      String word = tool.name().toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z0-9]+", "-");
      return word.replaceAll("^-|-$", "").isEmpty() ? "tool" : word.replaceAll("^-|-$", "");
    }

    @Override
    public boolean hasAmount() {
      return tool.hasAmount();
    }

    @Override
    public boolean does(Job job) {
      return tool.job() == job;
    }
  }

  /**
   * A stand-in.
   *
   * @param standIn what is run
   */
  record Inside(StandIn standIn) implements RigTool {
    @Override
    public String title() {
      return standIn.title();
    }

    @Override
    public String fileWord() {
      return standIn.id();
    }

    @Override
    public boolean hasAmount() {
      return standIn.hasAmount();
    }

    @Override
    public boolean does(Job job) {
      return standIn.jobs().contains(job);
    }
  }
}
