#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/machine/comparison.h"
#include "core/record/level_measurement.h"
#include "core/record/pass.h"
#include "core/record/performed_flips.h"
#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// What the captures say about one visit.
struct VisitProof {
  std::int64_t visit_id = 0;
  int planned = 1;
  ConfigurationId configuration = ConfigurationId::Baseline;
  std::vector<Difference>
      not_as_its_level;              ///< unlike the other visits at its level: its passes are left out until accepted
  std::vector<Difference> not_held;  ///< between its start and its end
  std::string rendered_elsewhere;    ///< how busy which graphics devices were, where it was not the one under test
  std::string sagged;                ///< what was measured to yield less at its end than at its start; a sentence
  std::string too_much;              ///< what was measured to be more than can be; a sentence
  std::string unmeasured;            ///< why its level could not be measured; empty where it was, or was not to be
  std::string not_its_name;          ///< what was read where its level's name, or design, says otherwise; a sentence
  std::string errors;                ///< corrected errors of memory and links that came up during it; a sentence
};

/// Modules above or below what they are made for, and at which of the levels.
struct MemoryRemark {
  std::string what;  ///< "memory runs at 6000 MT/s, above its rating of 5600 MT/s"
  std::vector<std::string> levels;
  /// "At 6000 MT/s: memory runs …"; of all levels of a study without naming them.
  [[nodiscard]] std::string sentence(std::size_t levels_of_the_study) const;
};

/// What captures and measurements together say about the variable.
enum class ProofVerdict { MovedAsDeclared, DidNotMove, MovedElsewhere, CannotTell };
[[nodiscard]] const char* proofVerdictName(ProofVerdict verdict);

/// What the captures of a study say about its variable.
struct BenchProof {
  bool is_captured = false;            ///< both levels were captured at least once
  bool is_declared = false;            ///< the study says what kind of variable it is about
  bool is_virtual = false;             ///< a virtual machine
  std::optional<Comparison> levels;    ///< the baseline against the changed level, each at its best visit
  std::vector<MeasuredStep> measured;  ///< between the same two visits, every reading that both have
  std::string other_neck;  ///< the hop that is narrower than the moved link at both levels: no effect is to be expected
  bool are_levels_swapped = false;       ///< each level reads what the other one is called
  std::string names_disagree;            ///< what both levels read, where neither is what it is called; a sentence
  std::vector<MissedFlip> missed_flips;  ///< flips that were not performed
  std::vector<MemoryRemark> memory_remarks;
  ProofVerdict verdict = ProofVerdict::CannotTell;
  std::string reason;               ///< in words; empty where the variable moved as declared and nothing else did
  std::int64_t baseline_visit = 0;  ///< the visits that stand for their levels; 0 until there are
  std::int64_t changed_visit = 0;
  std::vector<VisitProof> visits;  ///< every captured visit, in order

  /// The step of the reading by which the kind is proved; of several that speak for it, one that disagrees first.
  [[nodiscard]] const MeasuredStep* decidingStep() const;
};

/// Works out what captures and measurements say.
/// Shapes  captures in order of recording; a visit without one is passed over
/// Source  the rule of one variable: every fact outside the variable's declared fields must be equal; what was read is
///         believed only where what was measured does not speak against it
[[nodiscard]] BenchProof proveBench(const Study& study, const Record& record);

/// What stands for a visit: its capture under load where there is one, else the one before its passes. Nothing without
/// any.
[[nodiscard]] const Capture* bestCaptureOf(std::int64_t visit_id, std::span<const VisitCapture> captures);

/// What a comparison of the study's two levels is about: its kind, its device, what is held and what is released.
[[nodiscard]] ComparisonOrder comparisonOrderOf(const Study& study, const std::string& device,
                                                const std::string& baseline_name, const std::string& changed_name);

}  // namespace core
