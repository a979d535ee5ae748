#include "core/findings/repeatability.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>

#include "core/estimate/spread.h"
#include "core/estimate/wording.h"
#include "core/findings/findings.h"
#include "core/record/case_passes.h"

namespace core {
namespace {

std::string placeText(int place, int of) {
  if (place == 1) return fmt::format("the steadiest of {} cases here", of);
  if (place == of) return fmt::format("the least steady of {} cases here", of);
  return fmt::format("{} of {} cases here are steadier", place - 1, of);
}

}  // namespace

std::vector<CaseRepeatability> repeatabilityOf(const Study& study, const Record& record) {
  const Findings findings = findingsOf(study, record);
  const auto counted = countedByCase(study, scheduleOf(study), record.visits, record.passes);
  std::vector<CaseRepeatability> all;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    if (counted[i].empty()) continue;
    CaseRepeatability one{study.cases[i].title(),
                          static_cast<int>(counted[i].size()),
                          static_cast<int>(findings.cases[i].odd_passes.size()),
                          {},
                          0};
    const auto values = visitValues(counted[i], [](const Pass& pass) { return pass.value; });
    const bool is_ratio = study.cases[i].metric.scale == Scale::Ratio;
    if (const auto spread = is_ratio ? runToRunSpread(values) : std::nullopt) {
      one.pass_sd = spread->pass_sd;
      one.pass_df = spread->df;
    }
    all.push_back(std::move(one));
  }
  return all;
}

std::string BenchRepeatability::text() const {
  std::string text = spread_percent ? fmt::format("passes differ by {:.2f} %, ", *spread_percent) : std::string();
  text += fmt::format("{} of {} odd, in {}", odd, countText(passes, "pass", "passes"),
                      countText(studies, "study", "studies"));
  if (place > 0 && of > 1) text += "; " + placeText(place, of);
  return text;
}

std::vector<BenchRepeatability> pooledRepeatability(std::span<const CaseRepeatability> all) {
  struct Pool {
    BenchRepeatability found;
    double squares = 0;
    int df = 0;
  };
  std::map<std::string, Pool> by_title;
  for (const CaseRepeatability& one : all) {
    Pool& pool = by_title[one.title];
    pool.found.title = one.title;
    ++pool.found.studies;
    pool.found.passes += one.passes;
    pool.found.odd += one.odd;
    if (!one.pass_sd || one.pass_df <= 0) continue;
    pool.squares += one.pass_df * *one.pass_sd * *one.pass_sd;
    pool.df += one.pass_df;
  }
  std::vector<BenchRepeatability> pooled;
  std::vector<double> spreads;
  for (auto& [title, pool] : by_title) {
    if (pool.df > 0) {
      pool.found.spread_percent = 100 * std::sqrt(std::expm1(pool.squares / pool.df));
      spreads.push_back(*pool.found.spread_percent);
    }
    pooled.push_back(std::move(pool.found));
  }
  for (BenchRepeatability& one : pooled) {
    if (!one.spread_percent) continue;
    const auto is_steadier = [&](double other) { return other < *one.spread_percent; };
    one.place = 1 + static_cast<int>(std::count_if(spreads.begin(), spreads.end(), is_steadier));
    one.of = static_cast<int>(spreads.size());
  }
  return pooled;
}

}  // namespace core
