package kettlesieve.core.work;

import java.util.ArrayList;
import java.util.List;
import kettlesieve.core.comparison.MediaRef;
import kettlesieve.core.media.Recording;
import kettlesieve.core.score.Notice;

/** What a person should know of files, each thing once, in the order in which it was noticed. */
final class Notes {
  private final List<Notice> notices = new ArrayList<>();

  /** That a file is not what it was when it was brought in, if that is so. */
  void change(MediaRef ref, String sha256, String what) {
    if (ref.sha256() != null && !ref.sha256().equals(sha256)) {
      add(new Notice(what, "the file has changed since it was brought in"));
    }
  }

  /** What may be wrong with a file that could be read. */
  void doubt(Recording recording, String what) {
    if (recording.facts().doubt() != null) {
      add(new Notice(what, recording.facts().doubt()));
    }
  }

  void add(Notice notice) {
    if (!notices.contains(notice)) {
      notices.add(notice);
    }
  }

  List<Notice> all() {
    return List.copyOf(notices);
  }
}
