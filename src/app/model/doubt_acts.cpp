#include "app/model/doubt_acts.h"

#include <array>

#include "core/judgement/doubt_kinds.h"

namespace app {
namespace {

using core::DoubtKind;
namespace doubt = core::doubt;

struct Mended {
  const DoubtKind& kind;
  const char* act;
};

constexpr const char* kRepeatVisit = "repeatVisitAction";
constexpr const char* kAnew = "newFromThisAction";  // what is asked, or how, was not right: ask it once more
constexpr const char* kOneMoreRound = "addRoundAction";
constexpr const char* kGoOn = "nextAction";

const std::array kMended{
    Mended{doubt::kUnlikeItsLevel, kRepeatVisit},
    Mended{doubt::kLevelNotReached, kRepeatVisit},
    Mended{doubt::kFlipNotPerformed, kRepeatVisit},
    Mended{doubt::kFailed, "repeatFailedAction"},
    Mended{doubt::kUntested, "testedAction"},
    Mended{doubt::kUnread, "statedAction"},
    Mended{doubt::kNotCaptured, "statedAction"},
    Mended{doubt::kNotHeld, kOneMoreRound},
    Mended{doubt::kSagged, kOneMoreRound},
    Mended{doubt::kSecondOpinion, "extendAction"},
    Mended{doubt::kDrift, kAnew},
    Mended{doubt::kMissing, kGoOn},
    Mended{doubt::kSoFar, kGoOn},
    Mended{doubt::kNoInterval, kGoOn},
    Mended{doubt::kPutBack, kGoOn},
    Mended{doubt::kDidNotMove, kAnew},
    Mended{doubt::kMovedElsewhere, kAnew},
    Mended{doubt::kAlsoChanged, kAnew},
    Mended{doubt::kHeld, kAnew},
    Mended{doubt::kCameAlong, kAnew},
    Mended{doubt::kLevelsSwapped, kAnew},
    Mended{doubt::kNamesDisagree, kAnew},
    Mended{doubt::kNarrowerElsewhere, kAnew},
    Mended{doubt::kKindNotDeclared, kAnew},
    Mended{doubt::kPageSize, kAnew},
    Mended{doubt::kPresetReset, kAnew},
    Mended{doubt::kPresented, kAnew},
    Mended{doubt::kSettingsUnread, kAnew},
    Mended{doubt::kGeneratedFrames, kAnew},
    Mended{doubt::kAutomaticQuality, kAnew},
    Mended{doubt::kFrameCap, kAnew},
    Mended{doubt::kDoubleStep, kAnew},
    Mended{doubt::kOneVisitPerLevel, kAnew},
    Mended{doubt::kTwoVisitsPerLevel, kAnew},
    Mended{doubt::kOpenedEarly, kAnew},
    Mended{doubt::kJudgedAfter, kAnew},
    Mended{doubt::kWarmUp, kAnew},
    Mended{doubt::kThinLows, kAnew},
    Mended{doubt::kTooFewFrames, kAnew},
};

}  // namespace

QString actOfDoubt(const QString& doubt_id) {
  const QString kind = doubt_id.section(QLatin1Char('/'), 0, 0);
  for (const Mended& one : kMended)
    if (kind == QLatin1String(one.kind.id)) return QString::fromLatin1(one.act);
  return {};
}

}  // namespace app
