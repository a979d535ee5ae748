#pragma once

#include <QString>
#include <QStringList>
#include <optional>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// One way through the machine as it is drawn: stations with a hop between each two.
struct PathRow {
  struct Hop {
    QString grade;  ///< "Gen 4 x16"
    QString rate;   ///< "31.5 GB/s"
    QString where;  ///< "slot, narrowest"
    bool is_narrowest = false;
    bool is_virtual = false;  ///< a tunnel's: it says nothing about the real rate
  };
  QString title;  ///< "Visit 2 · 6000 MT/s"
  core::ConfigurationId configuration = core::ConfigurationId::Baseline;
  QStringList stations;
  std::vector<Hop> hops;  ///< one fewer than stations
};

/// One group of differences.
struct DifferenceGroup {
  QString title;
  QStringList sentences;
  QString empty;             ///< what to say where there are none
  bool is_accident = false;  ///< must not change
};

/// One line of the proof: what a level is expected to carry, what was read, what was measured.
struct ProofRow {
  QString level;
  QString called;    ///< what a capture must read at it, and whether it did
  QString expected;  ///< where a measurement plausibly lands, GB/s
  QString read;
  QStringList measured;  ///< every reading, with its spread and the share of the usable rate
};

/// What the bench page shows, in finished text: two captured visits against each other.
class BenchViewModel final : public QObject {
  Q_OBJECT
 public:
  explicit BenchViewModel(const StudyModel& study, QObject* parent = nullptr);

  struct Choice {
    std::int64_t visit_id = 0;
    QString text;  ///< "visit 3 · 6000 MT/s"
  };
  /// Every captured visit.
  [[nodiscard]] std::vector<Choice> choices() const;
  [[nodiscard]] std::int64_t left() const { return left_; }
  [[nodiscard]] std::int64_t right() const { return right_; }
  [[nodiscard]] bool hasCaptures() const { return left_ != 0; }

  /// "moved as declared; nothing else changed".
  [[nodiscard]] QString summary() const;
  [[nodiscard]] std::vector<PathRow> paths() const;
  [[nodiscard]] std::vector<DifferenceGroup> groups() const;
  [[nodiscard]] std::vector<ProofRow> proof() const;
  /// What each measured reading says about the step between the levels, a sentence each.
  [[nodiscard]] QStringList measuredSteps() const;
  /// What changed on this bench since it was last seen before this study; empty where it never was.
  [[nodiscard]] QString sinceLastTime() const { return since_last_time_; }
  /// What people stated about the bench in the visit on the left, a line each.
  [[nodiscard]] QStringList stated() const;
  /// The usual cautions for this kind of variable, one a line.
  [[nodiscard]] QStringList cautions() const;
  /// What to do where nothing is captured yet.
  [[nodiscard]] QString emptyText() const;

 public Q_SLOTS:
  void choose(std::int64_t left_visit, std::int64_t right_visit);
  /// Shows the visit that a doubt is about, against its level.
  void showVisitOfDoubt(const QString& doubt_id);

 Q_SIGNALS:
  void changed();

 private:
  [[nodiscard]] core::Study shownPair() const;
  [[nodiscard]] std::size_t placeInPair(std::int64_t visit_id) const;
  void refresh();
  [[nodiscard]] const core::BenchProof& referenceProof() const;
  void takeReferences();
  void lookBack();
  [[nodiscard]] QStringList measuredTexts(std::int64_t visit_id) const;
  [[nodiscard]] QString expectedReadingText(std::int64_t visit_id) const;
  [[nodiscard]] ProofRow proofRow(std::int64_t visit_id) const;
  [[nodiscard]] bool showsReferences() const;
  void compare();
  [[nodiscard]] const core::Visit* visit(std::int64_t id) const;
  [[nodiscard]] const core::Capture* capture(std::int64_t visit_id) const;
  [[nodiscard]] QString visitText(std::int64_t id) const;
  [[nodiscard]] std::string device() const;
  void addMemoryPath(std::vector<PathRow>& rows, std::int64_t visit_id) const;
  void addDevicePath(std::vector<PathRow>& rows, std::int64_t visit_id) const;

  const StudyModel& study_;
  std::int64_t left_ = 0;
  std::int64_t right_ = 0;
  std::size_t records_seen_ = 0;  ///< passes come all the time, captures and measurements a few times a visit
  QString since_last_time_;
  bool is_chosen_ = false;  ///< by a person; otherwise the visits that stand for their levels
  std::optional<core::Comparison> comparison_;
};

}  // namespace app
