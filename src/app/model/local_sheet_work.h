#pragma once

#include "app/model/sheet_work.h"
#include "session/sheet/session.h"

namespace app {

/// A sheet whose passes are started by this process.
class LocalSheetWork final : public SheetWork {
  Q_OBJECT
 public:
  explicit LocalSheetWork(std::unique_ptr<session::Session> session);

  [[nodiscard]] const std::string& bench() const override { return session_->study().bench; }
  [[nodiscard]] WorkStanding standing() const override;
  core::Status start() override { return session_->start(); }
  void stop() override { session_->stop(session::Stop::AfterPass); }
  [[nodiscard]] QStringList toApprove() const override;
  core::Status approve() override { return session_->approve(); }

 private:
  std::unique_ptr<session::Session> session_;
};

}  // namespace app
