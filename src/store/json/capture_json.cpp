#include "store/json/capture_json.h"

#include <array>
#include <stdexcept>

#include "core/record/pass.h"
#include "store/json/json_text.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using json = nlohmann::ordered_json;

constexpr std::array kFactKinds{core::FactKind::Configuration, core::FactKind::Evidence, core::FactKind::Volatile,
                                core::FactKind::Identity};
constexpr std::array kStatuses{core::FactStatus::Read, core::FactStatus::Absent, core::FactStatus::Denied,
                               core::FactStatus::Unreadable};

constexpr std::size_t kMostReadings = 20'000;

json factJson(const core::Fact& fact) {
  json object{{"kind", core::factKindName(fact.kind)}, {"status", core::factStatusName(fact.status)}};
  if (fact.isRead()) object["value"] = fact.value;
  if (fact.number) object["number"] = *fact.number;
  for (const auto& [key, text] : {std::pair{"unit", &fact.unit}, std::pair{"source", &fact.source},
                                  std::pair{"why", &fact.why}, std::pair{"group", &fact.group}})
    if (!text->empty()) object[key] = *text;
  return object;
}

template <class Enum, std::size_t N>
Enum named(const std::array<Enum, N>& all, const char* (*name_of)(Enum), const std::string& name) {
  for (const Enum one : all)
    if (name == name_of(one)) return one;
  throw std::invalid_argument("'" + name + "' is not known here");
}

core::Fact readFact(const std::string& name, const nlohmann::json& object) {
  core::Fact fact;
  fact.name = name;
  fact.kind = named(kFactKinds, &core::factKindName, object.at("kind").get<std::string>());
  fact.status = named(kStatuses, &core::factStatusName, object.at("status").get<std::string>());
  fact.value = object.value("value", "");
  if (object.contains("number")) fact.number = object.at("number").get<double>();
  fact.unit = object.value("unit", "");
  fact.source = object.value("source", "");
  fact.why = object.value("why", "");
  fact.group = object.value("group", "");
  return fact;
}

}  // namespace

std::string captureToJson(const core::Capture& capture, int indent) {
  // Their names differ: each is put at the end unsought, which `readings[name]` would seek among all before it.
  std::vector<json::object_t::value_type> each;
  for (const core::Fact& fact : capture.facts) each.emplace_back(fact.name, factJson(fact));
  const json readings = json::object_t(each.begin(), each.end());
  const json object{{"format", "iron-lever-capture"},
                    {"version", 1},
                    {"taken_ms", capture.taken_ms},
                    {"boot_id", capture.boot_id},
                    {"is_privileged", capture.is_privileged},
                    {"is_virtual", capture.is_virtual},
                    {"readings", readings}};
  return jsonText(object, indent);
}

core::Result<core::Capture> captureFromJson(std::string_view text, const std::string& source_name) {
  try {
    const nlohmann::json object = parseSortedJson(text, true);
    if (object.value("format", "") != "iron-lever-capture" || object.at("version") != 1)
      return Error{ErrorKind::Malformed, "this is not a capture that this version can read", source_name,
                   "Make it with: iron-lever-cli capture --json"};
    if (object.at("readings").size() > kMostReadings) throw std::out_of_range("no machine has so many readings");
    core::Capture capture;
    capture.taken_ms = wholeNumberOf(object.at("taken_ms"));
    if (!core::isMoment(capture.taken_ms)) throw std::out_of_range("it has no time");
    capture.boot_id = object.at("boot_id").get<std::string>();
    capture.is_privileged = object.value("is_privileged", false);
    capture.is_virtual = object.value("is_virtual", false);
    for (const auto& [name, fact] : object.at("readings").items()) capture.put(readFact(name, fact));
    return capture;
  } catch (const std::exception& e) {  // the library's, or readFact's own: what is wrong is in its text
    return Error{ErrorKind::Malformed, std::string("this is not a whole capture: ") + e.what(), source_name,
                 "Make it anew with: iron-lever-cli capture --json"};
  }
}

}  // namespace store
