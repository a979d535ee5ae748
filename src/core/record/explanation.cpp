#include "core/record/explanation.h"

#include <cctype>

#include <fmt/format.h>

namespace core {

const char* gradeName(Grade grade) {
  switch (grade) {
    case Grade::Measured: return "measured";
    case Grade::RuledOut: return "ruled out";
    case Grade::Conjecture: return "conjecture";
    case Grade::Unexplained: return "unexplained";
  }
  return "unknown";
}

std::optional<Grade> gradeNamed(std::string_view name) {
  for (const Grade grade : kGrades)
    if (name == gradeName(grade)) return grade;
  return std::nullopt;
}

std::string Explanation::sentence(const std::string& who) const {
  std::string grade_first = gradeName(grade);
  grade_first[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(grade_first[0])));
  return fmt::format("{}: {} ({})", grade_first, text, who);
}

}  // namespace core
