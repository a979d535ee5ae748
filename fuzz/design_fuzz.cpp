// Designs of every shape with some of their fields changed: refused, or a study that every part of the program takes.
#include <string>
#include <vector>

#include "core/judgement/judgement.h"
#include "core/planning/planner.h"
#include "core/study/schedule.h"
#include "fuzz/bytes.h"
#include "store/json/study_json.h"
#include "support/studies.h"

using fuzz::demand;
using Json = nlohmann::ordered_json;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const std::vector<Json> valid = [] {
    std::vector<Json> designs;
    for (const core::Study& study : {support::studyOf({"ring", "{log}"}), support::roundsOf(6), support::ladderOf(),
                                     support::crossedOf(), support::chainOf()})
      designs.push_back(Json::parse(store::studyToJson(study)));
    return designs;
  }();
  fuzz::Bytes bytes(data, size);
  const Json design = fuzz::changed(valid[bytes.take() % valid.size()], bytes);
  const auto study = store::studyFromJson(design.dump(-1, ' ', false, Json::error_handler_t::replace), "design");
  if (!study) {
    demand(!study.error().what.empty() && !study.error().remedy.empty());
    return 0;
  }
  const auto again = store::studyFromJson(store::studyToJson(*study), "design");
  demand(again.ok() ? store::studyToJson(*again) == store::studyToJson(*study)
                    : again.error().kind != core::ErrorKind::Malformed);
  for (const core::Error& problem : core::problemsOf(*study)) demand(!problem.what.empty() && !problem.remedy.empty());
  if (!core::shapeProblems(*study).empty() || !core::numbersOutOfRange(*study).empty()) return 0;
  const auto schedule = core::scheduleOf(*study);
  demand(schedule.size() <= 200'000);
  for (const core::Slot& slot : schedule)
    demand(slot.case_index < study->cases.size() && core::placeOf(slot.configuration) < study->configurationCount());
  for (const core::ExactCommand& act : core::actsOf(*study)) (void)core::displayText(act);
  if (schedule.size() < 2'000) demand(!core::judgementOf(*study, {}).claim.sentence().empty());
  return 0;
}
