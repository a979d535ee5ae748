#include "session/programs/launcher.h"

namespace session {

void Launcher::launch(bench::CommandOrder order, std::function<void(const bench::CommandOutcome&)> then) {
  order.scratch = scratch_;
  command_ = bench_.start(order);
  is_running_ = true;
  connect(command_.get(), &bench::RunningCommand::finished, this,
          [this, then = std::move(then)](const bench::CommandOutcome& outcome) {
            // Out of the signal first: `then` may replace the command that is emitting it.
            is_running_ = false;
            QMetaObject::invokeMethod(
                this, [then, outcome] { then(outcome); }, Qt::QueuedConnection);
          });
}

void Launcher::stop() {
  if (command_) command_->stop();
}

void Launcher::askToEnd() {
  if (command_) command_->askToEnd();
}

}  // namespace session
