#pragma once

#include "core/proof/retired_visits.h"

namespace core {

/// How much a doubt weighs: a stop forbids the claim, a caution qualifies it, a note informs.
enum class DoubtRank { Stop, Caution, Note };
[[nodiscard]] const char* doubtRankName(DoubtRank rank);

/// Where a doubt is to be looked at.
enum class Place { Question, Bench, RunSheet, Passes, Findings, Report };

/// What all doubts of a kind have in common.
struct DoubtKind {
  const char* id;  ///< stable: people accept a doubt by it, and scripts read it
  DoubtRank rank = DoubtRank::Note;
  Place place = Place::Findings;
  bool tells_of_effect = false;  ///< of its size or direction: not shown while results are sealed
};

/// Every kind of doubt.
namespace doubt {

// Of the bench: did the variable move, and it alone.
inline constexpr DoubtKind kDidNotMove{"did_not_move", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kMovedElsewhere{"moved_elsewhere", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kMeasuredOtherwise{"measured_otherwise", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kNotProved{"not_proved", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kMeasuredTooNoisy{"measured_too_noisy", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kNarrowerElsewhere{"narrower_elsewhere", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kAlsoChanged{"also_changed", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kHeld{"held", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kCameAlong{"came_along", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kUnread{"unread", DoubtRank::Note, Place::Bench};
inline constexpr DoubtKind kLevelsSwapped{"levels_swapped", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kNamesDisagree{"names_disagree", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kLevelNotReached{kLevelNotReachedId, DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kFlipNotPerformed{kFlipNotPerformedId, DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kPageSize{"page_size", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kNotCaptured{"not_captured", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kKindNotDeclared{"kind_not_declared", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kMemoryRating{"memory_rating", DoubtRank::Note, Place::Bench};
inline constexpr DoubtKind kVirtualMachine{"virtual_machine", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kOtherDevice{"other_device", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kUnlikeItsLevel{kUnlikeItsLevelId, DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kNotHeld{"not_held", DoubtRank::Stop, Place::Bench};
inline constexpr DoubtKind kErrors{"errors", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kSagged{"sagged", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kTooMuch{"too_much", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kUnmeasured{"unmeasured", DoubtRank::Note, Place::Bench};

// Of the passes, and of what people did with them.
inline constexpr DoubtKind kPresetReset{"preset_reset", DoubtRank::Stop, Place::RunSheet};
inline constexpr DoubtKind kSettingsUnread{"settings_unread", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kGeneratedFrames{"generated_frames", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kAutomaticQuality{"automatic_quality", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kFrameCap{"frame_cap", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kControlMoved{"control_moved", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kOddVisit{"odd_visit", DoubtRank::Caution, Place::Passes};
inline constexpr DoubtKind kOddPasses{"odd_passes", DoubtRank::Note, Place::Passes};
inline constexpr DoubtKind kDrift{"drift", DoubtRank::Caution, Place::Passes};
inline constexpr DoubtKind kWarmUp{"warm_up", DoubtRank::Note, Place::Passes};
inline constexpr DoubtKind kDamagedPasses{"damaged_passes", DoubtRank::Caution, Place::Passes};
inline constexpr DoubtKind kExcluded{"excluded", DoubtRank::Note, Place::Passes};
inline constexpr DoubtKind kOthersAtWork{"others_at_work", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kPresented{"presented", DoubtRank::Stop, Place::Passes};
inline constexpr DoubtKind kTyped{"typed", DoubtRank::Caution, Place::Passes};
inline constexpr DoubtKind kTypedRanges{"typed_ranges", DoubtRank::Caution, Place::Passes};
inline constexpr DoubtKind kUpdating{"updating", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kThrottled{"throttled", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kUntested{"untested", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kOnBattery{"on_battery", DoubtRank::Caution, Place::Bench};
inline constexpr DoubtKind kPutBack{"put_back", DoubtRank::Stop, Place::RunSheet};
inline constexpr DoubtKind kStoppedAtLook{"stopped_at_look", DoubtRank::Note, Place::Question};
inline constexpr DoubtKind kSkipped{"skipped", DoubtRank::Note, Place::RunSheet};
inline constexpr DoubtKind kPlanChanged{"plan_changed", DoubtRank::Note, Place::RunSheet};
inline constexpr DoubtKind kJudgedAfter{"judged_after", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kJudgedOtherwise{"judged_otherwise", DoubtRank::Note, Place::Question};

// Of what the findings say.
inline constexpr DoubtKind kBoundElsewhere{"bound_elsewhere", DoubtRank::Caution, Place::Findings};
inline constexpr DoubtKind kSecondOpinion{"second_opinion", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kMoreThanGained{"more_than_gained", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kUpsideDown{"upside_down", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kYardsticks{"yardsticks", DoubtRank::Note, Place::Findings, true};
inline constexpr DoubtKind kSyntheticAndReal{"synthetic_and_real", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kCarriedByOne{"carried_by_one", DoubtRank::Note, Place::Findings, true};
inline constexpr DoubtKind kFurtherMissing{"further_missing", DoubtRank::Note, Place::Passes};
inline constexpr DoubtKind kNotInSuite{"not_in_suite", DoubtRank::Caution, Place::Findings};

// Of more than two configurations.
inline constexpr DoubtKind kDoubleStep{"double_step", DoubtRank::Stop, Place::Question};
inline constexpr DoubtKind kReversal{"reversal", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kMissing{"missing", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kUnevenSpread{"uneven_spread", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kGroupsDiffer{"groups_differ", DoubtRank::Note, Place::Bench};
inline constexpr DoubtKind kNoResource{"no_resource", DoubtRank::Note, Place::Question};

// Of the design, and of how much is in.
inline constexpr DoubtKind kOneVisitPerLevel{"one_visit_per_level", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kTwoVisitsPerLevel{"two_visits_per_level", DoubtRank::Note, Place::Question};
inline constexpr DoubtKind kTakenLevel{"taken_level", DoubtRank::Caution, Place::Question};
inline constexpr DoubtKind kOpenedEarly{"opened_early", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kNotTicked{"not_ticked", DoubtRank::Note, Place::RunSheet};
inline constexpr DoubtKind kSecondPart{"second_part", DoubtRank::Note, Place::Findings};
inline constexpr DoubtKind kSoFar{"so_far", DoubtRank::Note, Place::RunSheet};
inline constexpr DoubtKind kFailed{"failed", DoubtRank::Caution, Place::RunSheet};
inline constexpr DoubtKind kThinLows{"thin_lows", DoubtRank::Note, Place::Findings};
inline constexpr DoubtKind kTooFewFrames{"too_few_frames", DoubtRank::Caution, Place::Findings};
inline constexpr DoubtKind kLowsDisagree{"lows_disagree", DoubtRank::Caution, Place::Findings, true};
inline constexpr DoubtKind kNoInterval{"no_interval", DoubtRank::Caution, Place::RunSheet};

}  // namespace doubt
}  // namespace core
