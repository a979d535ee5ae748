#include "core/record/noise.h"

#include "core/estimate/spread.h"
#include "core/record/case_passes.h"

namespace core {

std::vector<CaseNoise> noiseOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes) {
  const std::vector<Slot> schedule = scheduleOf(study);
  const auto by_case = countedByCase(study, schedule, visits, passes);
  std::vector<CaseNoise> all;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    if (study.cases[i].metric.scale == Scale::Difference) continue;  // plans are made in percent
    const auto& counted = by_case[i];
    std::vector<std::vector<double>> by_visit;
    for (const VisitValues& visit : visitValues(counted, [](const Pass& pass) { return pass.value; }))
      if (!visit.values.empty()) by_visit.push_back(visit.values);
    if (const auto noise = nullStudy(by_visit))
      all.push_back({study.cases[i].title(), *noise, std::move(by_visit), noiseKeyOf(study, i)});
  }
  return all;
}

std::vector<CaseNoise> pilotOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes) {
  constexpr int kFewest = 2;  // degrees of freedom: three passes in one visit
  const std::vector<Slot> schedule = scheduleOf(study);
  const auto by_case = countedByCase(study, schedule, visits, passes);
  std::vector<CaseNoise> all;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    if (study.cases[i].metric.scale == Scale::Difference) continue;
    const auto& counted = by_case[i];
    const auto spread = runToRunSpread(visitValues(counted, [](const Pass& pass) { return pass.value; }));
    if (!spread || spread->df < kFewest) continue;
    NullStudy noise;
    noise.visits = 1;
    noise.pass_sd = spread->pass_sd;
    noise.pass_df = spread->df;
    all.push_back({study.cases[i].title(), noise, {}, noiseKeyOf(study, i)});
  }
  return all;
}

constexpr const char* kPlayedBy = ", played by ";

std::string noiseTitle(const Case& a_case, const std::string& player) {
  return a_case.is_played ? a_case.title() + kPlayedBy + player : a_case.title();
}

bool isNoiseOf(const CaseNoise& noise, const Case& a_case) {
  return a_case.is_played ? noise.title.starts_with(a_case.title() + kPlayedBy) : noise.title == a_case.title();
}

bool isOfTheSameFlip(const CaseNoise& noise, const Study& study, std::size_t case_index) {
  return isNoiseOf(noise, study.cases[case_index]) && noise.key && *noise.key == noiseKeyOf(study, case_index);
}

std::vector<std::vector<double>> nullVisitsOf(const Case& a_case, const std::optional<NullRecord>& known) {
  if (!known) return {};
  for (const NullRecord::OfCase& one : known->cases)
    if (isNoiseOf({one.title, {}, {}}, a_case)) return one.visits;
  return {};
}

}  // namespace core
