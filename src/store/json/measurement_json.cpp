#include "store/json/measurement_json.h"

#include "store/json/json_text.h"
#include "store/logs/json_result.h"

namespace store {

using json = nlohmann::ordered_json;

std::string measurementToJson(const core::VisitMeasurement& measurement) {
  json object = json::object();
  if (!measurement.failure.empty()) object["failure"] = measurement.failure;
  for (const core::Reading& reading : measurement.readings)
    object[reading.name] = {{"values", reading.measured.values}};
  return jsonText(object);
}

core::Result<core::VisitMeasurement> measurementFromJson(std::string_view text, const std::string& source_name) {
  core::VisitMeasurement measurement;
  const json object = parseJson(text);
  if (object.is_object() && object.contains("failure") && object["failure"].is_string()) {
    measurement.failure = object["failure"].get<std::string>();
    return measurement;
  }
  auto readings = readingsFromJson(text);
  if (!readings)
    return core::Error{core::ErrorKind::DamagedFile, "a measurement is damaged: " + readings.error().what, source_name,
                       "Restore the file from a copy; this one was left as it is"};
  measurement.readings = *std::move(readings);
  return measurement;
}

}  // namespace store
