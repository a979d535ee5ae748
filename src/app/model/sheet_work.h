#pragma once

#include <QObject>
#include <QString>
#include <QStringList>
#include <memory>
#include <optional>

#include "bench/bench_connection.h"
#include "core/record/sheet_ledger.h"
#include "core/study/schedule.h"
#include "core/values/result.h"
#include "session/user/user_files.h"

namespace app {

/// How a sheet that is followed beside others stands.
struct WorkStanding {
  enum class Phase { Ready, Connecting, Running, Stopping, WaitsForPerson, AsksApproval, Failed, Done };
  Phase phase = Phase::Ready;
  int filed = 0;
  int planned = 0;
  QString hand;                        ///< the pass in hand, or the next one
  QString words;                       ///< what a person does, or why it cannot go on
  std::optional<double> seconds_left;  ///< of the whole sheet; nothing before the first finished pass

  [[nodiscard]] bool isRunning() const {
    return phase == Phase::Connecting || phase == Phase::Running || phase == Phase::Stopping;
  }
};

/// How many passes of the plan are not to come any more.
[[nodiscard]] int settledPasses(const core::SheetLedger& ledger);
/// "6000 MT/s · Ring pass, 4K dome · pass 3".
[[nodiscard]] QString passInHand(const core::Study& study, const core::Slot& slot);

/// One of several sheets that are followed side by side. Lives in one thread; what takes long happens beside it.
class SheetWork : public QObject {
  Q_OBJECT
 public:
  /// Of the study at a path: run here, or at its bench over ssh. `here` outlives it. Errors of opening the study
  [[nodiscard]] static core::Result<std::unique_ptr<SheetWork>> of(const std::string& path,
                                                                   bench::BenchConnection& here,
                                                                   const session::UserFiles& files);

  [[nodiscard]] virtual const std::string& bench() const = 0;
  [[nodiscard]] virtual WorkStanding standing() const = 0;
  /// Starts, or goes on: a person has done what it waited for. Errors as Session::start
  virtual core::Status start() = 0;
  /// Ends it once the pass in hand has ended; at a far bench at once. What is filed stays.
  virtual void stop() = 0;
  /// What a person reads before anything is started; empty where nothing is asked.
  [[nodiscard]] virtual QStringList toApprove() const = 0;
  /// Takes their approval of exactly that. Errors  Io
  virtual core::Status approve() = 0;

 Q_SIGNALS:
  void changed();
  /// Something was added to the study's file.
  void filed();
};

}  // namespace app
