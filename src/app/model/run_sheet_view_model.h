#pragma once

#include <QString>
#include <vector>

#include "app/model/hand_card.h"
#include "app/model/study_model.h"
#include "core/record/flip_guide.h"

namespace app {

/// One card of the sheet: a planned visit.
struct VisitCard {
  enum class State { Ahead, InHand, Done };
  QString clock;  ///< when it began, "~16:20" when it probably will; empty where nobody can tell
  QString title;  ///< "Visit 2 · 6000 MT/s"
  QString words;  ///< "9 of 35 passes"
  State state = State::Ahead;
};

/// What the run sheet shows, in finished text.
class RunSheetViewModel final : public QObject {
  Q_OBJECT
 public:
  explicit RunSheetViewModel(const StudyModel& study, QObject* parent = nullptr) : QObject(parent), study_(study) {}
  /// The key that a player's program does not keep from us; empty where there is none.
  void setPlayersKey(const QString& key) { players_key_ = key; }
  [[nodiscard]] QString heading() const;
  [[nodiscard]] std::vector<VisitCard> visits() const;
  [[nodiscard]] HandCard hand() const;
  /// "12 s in this pass · about 4 min left"; empty when nothing runs.
  [[nodiscard]] QString timeLine() const;
  /// What was sampled last in the pass in hand, in a few words; empty before the first sample.
  [[nodiscard]] QString sampleLine() const;
  /// "How did the last pass feel?", with its case; empty where nobody is asked.
  [[nodiscard]] QString feelQuestion() const;
  [[nodiscard]] int recorded() const { return study_.judgement().findings.recorded_passes; }
  [[nodiscard]] int planned() const { return study_.judgement().findings.planned_passes; }

  /// Of the flip that is due: its points, and those that are done; none while the visit is begun.
  struct Checklist {
    QStringList points;
    QStringList ticked;
  };
  [[nodiscard]] Checklist checklist() const;

 private:
  [[nodiscard]] HandCard approvalCard() const;
  [[nodiscard]] HandCard readyCard() const;
  void addFlipSteps(HandCard& card, const core::Setup& setup) const;
  [[nodiscard]] QString cautionText() const;
  [[nodiscard]] core::FlipGuide guide() const;
  const StudyModel& study_;
  QString players_key_;
};

}  // namespace app
