#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace core {

/// How well a cause is founded. The names are written into study files and never change.
enum class Grade {
  Measured,    ///< shown by a reading, or by an experiment of its own
  RuledOut,    ///< shown not to be the cause
  Conjecture,  ///< plausible, and nobody has looked
  Unexplained  ///< looked for, and not found
};
inline constexpr std::array kGrades{Grade::Measured, Grade::RuledOut, Grade::Conjecture, Grade::Unexplained};
[[nodiscard]] const char* gradeName(Grade grade);
[[nodiscard]] std::optional<Grade> gradeNamed(std::string_view name);

/// What somebody holds to be the cause of a case's finding: never a result, always with its grade.
struct Explanation {
  std::string case_title;
  Grade grade = Grade::Conjecture;
  std::string text;
  std::string person;

  /// "Conjecture: the cache holds it all (M. Osei)".
  [[nodiscard]] std::string sentence() const { return sentence(person); }
  /// The same with another name for the person.
  [[nodiscard]] std::string sentence(const std::string& who) const;
  bool operator==(const Explanation&) const = default;
};

}  // namespace core
