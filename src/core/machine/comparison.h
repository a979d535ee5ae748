#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/machine/fact.h"
#include "core/machine/variable_kind.h"

namespace core {

/// One fact that is not the same in two captures. An empty text: absent there.
struct Difference {
  std::string field;
  Fact from;
  Fact to;
  std::vector<std::string> consequences;  ///< fields that changed for the same reason; one cause is reported once
  bool is_setting_itself = false;         ///< the variable as it shows elsewhere: nobody could hold it
};

/// A fact that nothing can be said about.
struct Unverified {
  std::string field;
  std::string why;
};

/// What is so about the variable between two captures.
enum class Moved { Yes, No, Undetermined };
[[nodiscard]] const char* movedName(Moved moved);

/// Two captures by the fields of one kind of variable.
struct Comparison {
  std::vector<Difference> meant;        ///< meant to change, and did
  std::vector<Difference> comes_along;  ///< known side effects
  std::vector<Difference> must_not;     ///< every other configuration that changed
  std::vector<Difference> held;         ///< conditions and facts that a tester holds equal, and that are not
  std::vector<Difference> evidence;     ///< counters and readings: shown, never held against the pair
  std::vector<Unverified> unread;       ///< could not be read at one of the levels
  std::vector<std::string> unchanged;   ///< configuration that was read on both sides and is equal
  std::vector<std::string> left_out;    ///< what is in motion by nature, by group
  Moved moved = Moved::No;
  bool only_variable_changed = false;  ///< nothing that must stay moved, nothing held, and nothing came along
  /// Moved as declared, with no more beside it than such a change brings along.
  [[nodiscard]] bool isValidPair() const { return moved == Moved::Yes && must_not.empty() && held.empty(); }
  std::string reason;  ///< in words; empty for a valid pair
};

/// What a comparison is about.
struct ComparisonOrder {
  const VariableKind* kind = nullptr;
  std::string device;                        ///< PCI address; empty where the variable has none
  std::vector<std::string> declared_fields;  ///< for "other": facts that must change; of a pattern's one must
  std::string baseline_name = "baseline";    ///< how the captures are called in the reason
  std::string changed_name = "changed";
  std::vector<std::string> held = {};                ///< facts that the tester holds equal besides; * for any text
  std::map<std::string, std::string> released = {};  ///< held conditions that may differ after all, and why
};

/// Compares two captures. A device whose address moved is found again by its ids.
/// Source  every fact outside the declared fields must be equal; what could not be read is not unchanged
[[nodiscard]] Comparison compareCaptures(const Capture& baseline, const Capture& changed, const ComparisonOrder& order);

}  // namespace core
