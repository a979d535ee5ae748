#pragma once

#include <map>
#include <vector>

#include "core/findings/case_memory.h"
#include "core/findings/companions.h"
#include "core/findings/findings.h"
#include "core/findings/further_results.h"
#include "core/findings/possible.h"
#include "core/findings/shape_cases.h"
#include "core/findings/shape_findings.h"
#include "core/findings/used.h"
#include "core/findings/value.h"
#include "core/judgement/claim.h"
#include "core/judgement/doubts.h"
#include "core/planning/extension.h"
#include "core/proof/step_proofs.h"
#include "core/record/pass_names.h"

namespace core {

/// Everything that a study says so far, worked out once for window, command line and report.
struct Judgement {
  PairOf pair;       ///< the two configurations that `proof` and `findings` are about
  Study pair_study;  ///< the same as a study of two levels: of a pair the study itself
  BenchProof proof;
  std::vector<StepProof> steps;  ///< every step that the study takes; of a pair its only one
  Findings findings;
  ShapeFindings shape;               ///< every contrast that the study asks
  std::vector<PossibleAt> possible;  ///< of the cases that say of themselves whether they are possible
  std::vector<Value> value;          ///< what the headline brings for its price; empty while sealed
  std::vector<FurtherFinding>
      further;  ///< results beside the headlines, of the two that are compared; empty while sealed
  std::vector<CompanionFinding> companions;  ///< cases with one against the same alone; empty while sealed
  std::optional<Findings> with_all;          ///< the findings with what people left out, where anything was
  std::vector<Doubt> doubts;
  std::vector<Unreachable> unreachable;  ///< levels that could not be reached: results of their own
  Claim claim;
  std::optional<Extension> extension;       ///< what would make a finished plan decide, where it is allowed
  std::vector<Prediction> predictions;      ///< what people expected before the first counted pass
  std::map<std::string, std::string> pins;  ///< a case's title, and the remark with which it was pinned
  std::vector<Explanation> explanations;    ///< what people hold to be causes, with their grades
  PassNames pass_names;
  std::optional<int> look;             ///< the planned look at which the study stands, by its round
  bool is_sealed = false;              ///< nothing that tells of the effect is to be shown yet
  bool is_second_part_sealed = false;  ///< nor of what the cases do that were added later

  /// Is what it does not to be shown yet?
  [[nodiscard]] bool isSealed(const Case& one) const {
    return is_sealed || (is_second_part_sealed && one.is_second_part);
  }

  /// Does the study ask what `pair` compares? Else somebody chose the two afterwards, perhaps for what they show.
  [[nodiscard]] bool isPairAsked() const;
};

/// What is to be thought of two configurations that were chosen afterwards, without its full stop.
[[nodiscard]] const char* chosenAfterwardsText();

/// What was worked out the last time, for a study that a person works on. Used by one thread, for one study file.
struct JudgementMemory {
  CaseMemory cases;
  ComparableMemory comparables;
};

[[nodiscard]] Judgement judgementOf(const Study& study, const Record& record);

/// The same with proofs that were worked out before, since captures change far less often than passes, and about two
/// configurations that somebody chose; else about those that the study is about in one line. `memory`
/// spares what has not changed since the last time.
[[nodiscard]] Judgement judgementOf(const Study& study, const Record& record, std::vector<StepProof> steps,
                                    std::optional<PairOf> pair = {}, JudgementMemory* memory = nullptr);

/// What the two configurations of a judgement used: see usedOf of the findings. Worked out where it is shown, for every
/// channel of every case takes its time; nothing while results are sealed, since watts and degrees tell them.
[[nodiscard]] std::vector<Used> usedOf(const Study& study, const Record& record, const Judgement& judgement);

}  // namespace core
