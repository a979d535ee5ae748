#include "core/findings/case_memory.h"

namespace core {

void CaseMemory::begin(const Study& study, const Record& record, PairOf pair, ExcludedPasses excluded) {
  excluded_ = excluded;
  if (study_ == study && pair_ == pair && null_study_ == record.null_study && captures_ == record.captures.size())
    return;
  study_ = study;
  pair_ = pair;
  null_study_ = record.null_study;
  captures_ = record.captures.size();
  for (Way& one : ways_) one = {std::vector<std::optional<Known>>(study.cases.size()), {}};
}

CaseFinding CaseMemory::get(std::size_t case_index, std::span<const CountedPass> counted,
                            std::span<const CountedPass> everywhere, const std::function<CaseFinding()>& find) {
  Key key;
  key.reserve(counted.size() + everywhere.size());
  for (const auto& passes : {counted, everywhere})
    for (const CountedPass& one : passes) key.emplace_back(one.pass->id, one.visit->id, one.pass->value.value_or(0));
  std::optional<Known>& known = way().cases[case_index];
  if (!known || known->key != key) {
    known = Known{std::move(key), find()};
    way().suite.reset();
  }
  return known->finding;
}

std::optional<SuiteSummary> CaseMemory::suite(std::vector<std::size_t> cases,
                                              const std::function<std::optional<SuiteSummary>()>& summarize) {
  std::optional<Suite>& known = way().suite;
  if (!known || known->cases != cases) known = Suite{std::move(cases), summarize()};
  return known->summary;
}

}  // namespace core
