#include "store/null_record_json.h"

#include <nlohmann/json.hpp>

namespace store {

using json = nlohmann::ordered_json;

std::string nullRecordToJson(const core::NullRecord& record) {
  json object{{"date", record.date}, {"cases", json::array()}};
  for (const core::NullRecord::OfCase& one : record.cases)
    object["cases"].push_back({{"case", one.title}, {"visits", one.visits}});
  return object.dump();
}

std::optional<core::NullRecord> nullRecordFromJson(const std::string& text) {
  try {
    const json object = json::parse(text);
    core::NullRecord record{object.at("date").get<std::string>(), {}};
    for (const json& one : object.at("cases"))
      record.cases.push_back(
          {one.at("case").get<std::string>(), one.at("visits").get<std::vector<std::vector<double>>>()});
    return record;
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

std::string visitsToJson(const std::vector<std::vector<double>>& visits) { return json(visits).dump(); }

std::vector<std::vector<double>> visitsFromJson(const std::string& text) {
  try {
    return json::parse(text).get<std::vector<std::vector<double>>>();
  } catch (const json::exception&) {
    return {};
  }
}

}  // namespace store
