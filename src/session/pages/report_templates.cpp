#include "session/pages/report_templates.h"

#include <algorithm>
#include <array>
#include <filesystem>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "session/user/output_file.h"
#include "session/user/user_files.h"
#include "store/files/regular_file.h"
#include "store/json/json_text.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using Own = std::map<std::string, report::PageOrder>;

constexpr std::array kBuiltIn{std::pair{"full", &report::fullOrder}, std::pair{"short", &report::shortOrder},
                              std::pair{"hurry", &report::hurryOrder}};

core::Result<Own> ownFrom(const std::string& path) {
  constexpr std::uintmax_t kLargest = 1 << 20;
  Own own;
  std::error_code code;
  if (!std::filesystem::exists(path, code)) return own;
  const auto text = store::contentsOf(path, kLargest);
  if (!text) return text.error();
  const Error malformed{ErrorKind::Malformed, "the templates of reports cannot be read", path,
                        "Mend the file, or move it away: the program makes a new one"};
  const auto read = nlohmann::json::parse(*text, nullptr, false);
  if (!read.is_object()) return malformed;
  for (const auto& [name, one] : read.items()) {
    if (!one.is_object() || !one.value("parts", nlohmann::json()).is_string() ||
        !one.value("text", nlohmann::json("")).is_string())
      return malformed;
    const auto parts = report::pagePartsFrom(one["parts"].get<std::string>());
    if (!parts) return parts.error();
    own[name] = {*parts, one.value("text", std::string())};
  }
  return own;
}

}  // namespace

core::Result<std::vector<std::string>> ReportTemplates::names() const {
  std::vector<std::string> names;
  for (const auto& [name, make] : kBuiltIn) names.emplace_back(name);
  const auto own = ownFrom(path_);
  if (!own) return own.error();
  for (const auto& [name, order] : *own) names.push_back(name);
  return names;
}

core::Result<report::PageOrder> ReportTemplates::find(const std::string& name) const {
  for (const auto& [known, make] : kBuiltIn)
    if (name == known) return make();
  const auto own = ownFrom(path_);
  if (!own) return own.error();
  if (const auto found = own->find(name); found != own->end()) return found->second;
  const auto all = names();
  return Error{ErrorKind::Missing, fmt::format("there is no template '{}'", name), path_,
               all ? fmt::format("Use one of {}", fmt::join(*all, ", ")) : "Use full, short or hurry"};
}

core::Status ReportTemplates::keep(const std::string& name, const report::PageOrder& order) {
  const bool is_built_in =
      std::any_of(kBuiltIn.begin(), kBuiltIn.end(), [&](const auto& one) { return name == one.first; });
  if (is_built_in || name.find_first_not_of(" \t") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "a template of one's own has a name of its own", name,
                 "Choose another name than full, short and hurry"};
  auto own = ownFrom(path_);
  if (!own) return own.error();
  (*own)[name] = order;
  nlohmann::ordered_json all = nlohmann::ordered_json::object();
  for (const auto& [known, one] : *own) all[known] = {{"parts", report::namesOf(one.parts)}, {"text", one.text}};
  if (auto made = makeOwnFile(path_); !made) return made;
  return writeOutput(path_, store::jsonText(all, 1) + '\n');
}

}  // namespace session
