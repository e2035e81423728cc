package kettlesieve.core.comparison;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.List;

/**
 * A role made of others, the same way in all versions: a sum of stems, or the mix without some.
 *
 * @param name for people, such as "everything but drums"
 * @param roles whose stems are taken
 * @param remainder false: their sum; true: the mix minus their sum
 */
public record RoleSum(String name, List<String> roles, boolean remainder) {
  /** The role it is judged as; a tool may give the same in a file of its own. */
  @JsonIgnore
  public String role() {
    return remainder ? Roles.EVERYTHING_BUT + Roles.sum(roles) : Roles.sum(roles);
  }

  public RoleSum {
    roles = List.copyOf(roles);
    if (name == null || name.isBlank() || roles.isEmpty()) {
      throw new IllegalArgumentException("a sum needs a name and at least one role");
    }
  }
}
