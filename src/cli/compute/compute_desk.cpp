#include "cli/compute/compute_desk.h"

#include "report/json/or_null.h"

namespace cli {
namespace {

using nlohmann::json;
using nlohmann::ordered_json;

ordered_json linksJson(const std::vector<core::EqualLink>& links) {
  ordered_json all = ordered_json::array();
  for (const core::EqualLink& one : links)
    all.push_back({{"generation", one.generation}, {"lanes", one.lanes}, {"ratio", one.ratio}});
  return all;
}

}  // namespace

ordered_json deskJson(const std::vector<core::DeskValue>& answer) {
  ordered_json out = ordered_json::object();
  for (const core::DeskValue& one : answer) {
    const std::string key(one.key);
    if (const auto* number = std::get_if<std::optional<double>>(&one.value)) out[key] = report::orNull(*number);
    if (const auto* list = std::get_if<std::vector<double>>(&one.value)) out[key] = *list;
    if (const auto* links = std::get_if<std::vector<core::EqualLink>>(&one.value)) out[key] = linksJson(*links);
  }
  return out;
}

core::Result<ordered_json> deskGroup(const json& input) {
  core::DeskNumbers numbers;
  for (const auto& [key, value] : input.items()) {
    if (key == "ask") continue;
    numbers[key] = value.is_array() ? value.get<std::vector<double>>() : std::vector<double>{value.get<double>()};
  }
  const auto answer = core::deskAnswer(input.at("ask").get<std::string>(), numbers);
  if (!answer) return answer.error();
  return deskJson(*answer);
}

}  // namespace cli
