#include "store/json/null_record_json.h"

#include "store/json/json_text.h"

namespace store {

using json = nlohmann::ordered_json;

std::string nullRecordToJson(const core::NullRecord& record) {
  json object{{"date", record.date}, {"cases", json::array()}};
  for (const core::NullRecord::OfCase& one : record.cases)
    object["cases"].push_back({{"case", one.title}, {"visits", one.visits}});
  return jsonText(object);
}

std::optional<core::NullRecord> nullRecordFromJson(const std::string& text) {
  try {
    const json object = parseJson(text);
    core::NullRecord record{object.at("date").get<std::string>(), {}};
    for (const json& one : object.at("cases"))
      record.cases.push_back(
          {one.at("case").get<std::string>(), one.at("visits").get<std::vector<std::vector<double>>>()});
    return record;
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

std::string visitsToJson(const std::vector<std::vector<double>>& visits) { return jsonText(json(visits)); }

std::vector<std::vector<double>> visitsFromJson(const std::string& text) {
  try {
    return parseJson(text).get<std::vector<std::vector<double>>>();
  } catch (const json::exception&) {
    return {};
  }
}

}  // namespace store
