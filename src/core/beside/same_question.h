#pragma once

#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/beside/study_aside.h"
#include "core/estimate/claims.h"
#include "core/estimate/contrast.h"
#include "core/estimate/effect.h"

namespace core {

/// What one of the studies says of a case, or of all of them.
struct EffectAside {
  std::size_t study = 0;  ///< which of them
  std::optional<PercentChange> improvement;
  std::optional<Contrast> contrast;  ///< ln, improvement scale; nothing where the metric is a difference
  bool is_flip_unseen = false;       ///< it holds if flips add nothing: then so does a difference
};

/// What the last of the studies says, over what the first says.
struct DifferenceAside : Claimed {
  Contrast contrast;
  PercentChange percent;
};

/// A case that the studies have, matched by its title; or their suites.
struct RowAside {
  std::string title;  ///< "all" of the suites
  std::vector<EffectAside> effects;
  std::optional<DifferenceAside> difference;
  std::string why_no_difference;  ///< empty where there is one
};

/// What keeps two studies from being held against each other. Errors  TooFew; NotAllowed for studies that share passes,
/// or of which one is sealed
[[nodiscard]] Status checkAside(std::span<const StudyAside> studies);

/// The same question asked in several studies: what the change does in each, and in the last over the first. Suites
/// first, then the cases of all studies in order of their first appearance. `matched`: the title under which a case of
/// another title stands.
/// The question is that of the first study, by the names of its two configurations: a ladder may ask it among others.
/// Source  studyDifference of each case's contrast of those two; Holm 1979 over the cases; thresholds of the
/// first study
[[nodiscard]] std::vector<RowAside> sameQuestion(std::span<const StudyAside> studies,
                                                 const std::map<std::string, std::string>& matched = {});

/// One level of each study against the same level of the first, labelled between studies: no change, but two benches.
/// Flips of both are in it, for each visit counts once.
/// Errors  Missing for a level that a study does not have
/// Source  means of the visits on the ln scale, their spread over the visits; studyDifference
[[nodiscard]] Result<std::vector<RowAside>> levelsBetween(std::span<const StudyAside> studies, const std::string& level,
                                                          const std::map<std::string, std::string>& matched = {});

}  // namespace core
