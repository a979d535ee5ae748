#include "store/json/study_json.h"

#include <algorithm>
#include <optional>

#include "core/study/reach.h"
#include "store/json/case_fields.h"
#include "store/json/design_parts.h"
#include "store/json/field_table.h"
#include "store/json/json_text.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using json = DesignJson;

constexpr Words<core::School, 2> kSchools{
    {{"as_delivered", core::School::AsDelivered}, {"with_headroom", core::School::WithHeadroom}}};
constexpr Words<core::Yardstick, 3> kYardsticks{{{"interval", core::Yardstick::Interval},
                                                 {"fixed_band", core::Yardstick::FixedBand},
                                                 {"two_run_to_run_sds", core::Yardstick::TwoRunToRunSds}}};

constexpr auto kStudyFields = [](auto& table, auto& study) {
  table.required("bench", study.bench);
  // Of these the one needs the other: see design_parts.h.
  table.alsoKnown(
      {"shape", "variables", "configurations", "variable", "kind", "device", "fields", "levels", "plan", "reach"});
  table.unusual("machine", study.machine);
  table.unusual("held", study.held);
  table.unusual("released", study.released);
  table.unusual("bench_is_this_machine", study.is_this_machine);
  table.unusual("ssh_config", study.ssh_config);
  table.unusual("measure_command", study.measure_command);
  table.unusual("stability_command", study.stability_command);
  table.word("school", kSchools, study.school);
  table.list("cases", kCaseFields, study.cases, "List at least one case");
  table.unusual("is_null", study.is_null);
  table.usual("notice_threshold_percent", study.notice_threshold_percent);
  table.unusual("notice_threshold_ms", study.notice_threshold_ms);
  table.usual("confidence", study.confidence);
  table.usual("target_fps", study.target_fps);
  table.unusual("further_targets_fps", study.further_targets_fps);
  table.unusual("band_percent", study.band_percent, core::Study().band_percent);
  table.unusualWord("yardstick", kYardsticks, study.yardstick);
};

// One word for what the two older fields say, and for what they cannot.
void readReach(const json& object, core::Study& study, std::optional<Error>& error) {
  const auto said = object.find("reach");
  if (said == object.end() || error) return;
  if (!study.machine.empty() || study.is_this_machine) {
    error = Error{ErrorKind::Malformed, "how the bench is reached is said twice", "reach",
                  "Leave machine and bench_is_this_machine out"};
    return;
  }
  const auto reach = core::reachFrom(said->is_string() ? said->get<std::string>() : said->dump());
  if (!reach)
    error = reach.error();
  else
    core::setReach(study, *reach);
}

core::Study readStudy(const json& object, std::optional<Error>& error) {
  core::Study study;
  readFields(object, "", error, kStudyFields, study);
  readReach(object, study, error);
  readVariables(object, study, error);
  if (const auto problems = core::shapeProblems(study); !error && !problems.empty()) error = problems.front();
  const auto plan = object.find("plan");
  if (plan != object.end() && !error) study.plan = readPlan(*plan, study, error);  // its order names the configurations
  return study;
}

}  // namespace

std::string studyToJson(const core::Study& study) {
  json object{{"bench", study.bench}};
  addVariables(object, study);
  const json rest = writeFields(kStudyFields, study);
  for (const auto& [name, value] : rest.items()) object[name] = value;
  if (!study.ssh_name.empty()) object["reach"] = core::reachText(core::reachOf(study));
  object["plan"] = planJson(study.plan);
  return jsonText(object, 2);
}

// Errors  as studyFromJson, of the text alone
static core::Result<json> documentFrom(std::string_view text, const std::string& source_name) {
  try {
    json object = parseJson(text);
    if (object.is_discarded()) {
      object = json::parse(text);  // tells the place of the flaw; without one the text is out of all bounds
      return Error{ErrorKind::OutOfRange, "this is far more than any design says", source_name,
                   "See docs/study-format.md"};
    }
    return object;
  } catch (const json::parse_error& e) {
    const auto line =
        1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(e.byte, text.size())), '\n');
    return Error{ErrorKind::Malformed, "this is not valid JSON", source_name + ", line " + std::to_string(line),
                 "Look for a missing comma, quote or bracket there or just before"};
  } catch (const json::exception& e) {
    return Error{ErrorKind::OutOfRange, std::string("a number is larger than any: ") + e.what(), source_name,
                 "Correct it"};
  }
}

core::Result<core::Study> studyFromJson(std::string_view text, const std::string& source_name) {
  const auto object = documentFrom(text, source_name);
  if (!object) return object.error();
  std::optional<Error> error;
  core::Study study = readStudy(*object, error);
  if (error) {
    error->where = source_name + ", " + error->where;
    return *error;
  }
  return study;
}

core::Result<std::vector<core::Case>> casesFromJson(std::string_view text, const std::string& source_name) {
  auto object = documentFrom(text, source_name);
  if (!object) return object.error();
  if (object->is_array()) object = json{{"cases", *std::move(object)}};
  constexpr auto kHolder = [](auto& table, auto& study) {
    table.list("cases", kCaseFields, study.cases, "List at least one case");
  };
  core::Study holder;
  std::optional<Error> error;
  readFields(*object, "", error, kHolder, holder);
  if (error) {
    error->where = source_name + ", " + error->where;
    return *error;
  }
  return std::move(holder.cases);
}

core::Result<core::Study> newStudyFromJson(std::string_view text, const std::string& source_name) {
  auto study = studyFromJson(text, source_name);
  if (!study) return study;
  const json object = parseJson(text);
  const auto isSaid = [&](const char* field) {
    return object.contains("plan") && object["plan"].is_object() && object["plan"].contains(field);
  };
  if (study->configurationCount() > 2 && !isSaid("spread")) study->plan.spread = core::Spread::Shared;
  if (!study->plan.looks.empty() && !isSaid("look_price")) study->plan.look_price = core::LookPrice::Spending;
  return study;
}

}  // namespace store
