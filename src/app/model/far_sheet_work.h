#pragma once

#include <QElapsedTimer>
#include <atomic>
#include <string>
#include <vector>

#include "app/model/sheet_work.h"
#include "core/study/schedule.h"
#include "session/far/far_course.h"
#include "session/study/acts.h"
#include "session/user/background.h"

namespace app {

/// A sheet that runs at a bench over ssh, followed here beside the window. Whoever destroys it leaves the sheet to
/// itself: it goes on there.
class FarSheetWork final : public SheetWork {
  Q_OBJECT
 public:
  FarSheetWork(store::StudyFile file, std::string person, const session::UserFiles& files);
  ~FarSheetWork() override;

  [[nodiscard]] const std::string& bench() const override { return study_.bench; }
  [[nodiscard]] WorkStanding standing() const override { return standing_; }
  core::Status start() override;
  void stop() override;
  [[nodiscard]] QStringList toApprove() const override;
  core::Status approve() override;

 private:
  /// What came of following it, with what is to be approved there.
  struct Outcome {
    core::Result<session::FarEnd> end;
    session::FarSheet::ActsThere acts;
    int filed = 0;
  };
  [[nodiscard]] Outcome follow(const session::ReachedOrder& order);
  [[nodiscard]] std::vector<session::Act> actsHere() const;
  void hear(const session::FarJson& event);
  void take(const Outcome& outcome);
  void lookAgain(int filed);
  void stand(WorkStanding::Phase phase, const QString& words = {});

  std::string path_;
  std::string folder_;
  std::string person_;
  core::Study study_;
  std::vector<core::Slot> schedule_;
  session::UserFiles files_;
  WorkStanding standing_;
  session::FarSheet::ActsThere acts_;  ///< to be approved there
  std::string approved_;               ///< the digest of what a person has read and approved there
  QStringList lines_;                  ///< that were said since the last pass
  QElapsedTimer since_;                ///< its sheet runs
  int passes_heard_ = 0;
  std::atomic<bool> is_stopping_ = false;
  session::Background background_;  ///< the last, so that it ends before anything else
};

}  // namespace app
