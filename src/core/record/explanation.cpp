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

std::string Explanation::sentence() const {
  std::string grade_first = gradeName(grade);
  grade_first[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(grade_first[0])));
  return fmt::format("{}: {} ({})", grade_first, text, person);
}

std::string Explanation::filed() const { return fmt::format("{}: {}", gradeName(grade), text); }

std::optional<Explanation> Explanation::fromFiled(const std::string& case_title, const std::string& text,
                                                  const std::string& person) {
  const std::size_t colon = text.find(": ");
  const auto grade = gradeNamed(std::string_view(text).substr(0, colon));
  if (colon == std::string::npos || !grade) return std::nullopt;
  return Explanation{case_title, *grade, text.substr(colon + 2), person};
}

}  // namespace core
