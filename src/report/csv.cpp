#include "report/csv.h"

#include <cmath>

#include <fmt/format.h>

#include "core/values/personal_text.h"

namespace report {
namespace {

// In quotes where a reader would take a part of it for structure; spaces at an end are kept by quotes, too.
std::string cellText(const std::string& whole) {
  const std::string cell = core::withoutHomes(whole);
  const bool is_plain =
      cell.find_first_of(",\"\r\n") == std::string::npos && !cell.starts_with(' ') && !cell.ends_with(' ');
  if (is_plain) return cell;
  std::string quoted = "\"";
  for (const char c : cell) {
    if (c == '"') quoted += '"';
    quoted += c;
  }
  return quoted + '"';
}

}  // namespace

void Csv::row(const std::vector<std::string>& cells) {
  for (std::size_t i = 0; i < cells.size(); ++i) {
    if (i > 0) text_ += ',';
    text_ += cellText(cells[i]);
  }
  text_ += "\r\n";
}

std::string Csv::number(double value) { return std::isfinite(value) ? fmt::format("{}", value) : std::string(); }

}  // namespace report
