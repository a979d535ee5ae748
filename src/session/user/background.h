#pragma once

#include <QObject>
#include <QThreadPool>
#include <exception>
#include <functional>
#include <optional>
#include <stop_token>

namespace session {

/// One thread beside the session's own for what may take long: reading a machine that answers slowly, copying to a slow
/// folder. Works are done in the order in which they were asked, and each is told of in the thread that asked. Whoever
/// destroys it waits for what has begun; nothing is told any more then. What a work throws is thrown in the thread that
/// asked, where it is caught at the top.
class Background final : public QObject {
  Q_OBJECT
 public:
  explicit Background(QObject* parent = nullptr) : QObject(parent) { pool_.setMaxThreadCount(1); }
  ~Background() override {
    stop_.request_stop();
    pool_.waitForDone();
  }

  /// Asks for an end as this is destroyed, for works that need not be finished then.
  [[nodiscard]] std::stop_token end() const { return stop_.get_token(); }

  /// Has something been asked that is not told yet?
  [[nodiscard]] bool isBusy() const { return open_ > 0; }

  /// `work` holds by value whatever it touches.
  template <class T>
  void run(std::function<T()> work, std::function<void(const T&)> then) {
    ++open_;
    pool_.start([this, work = std::move(work), then = std::move(then)] {
      std::optional<T> result;
      std::exception_ptr thrown;
      try {
        result = work();
      } catch (...) {
        thrown = std::current_exception();
      }
      QMetaObject::invokeMethod(
          this,
          [this, then, result, thrown] {
            --open_;
            if (thrown) std::rethrow_exception(thrown);
            then(*result);
          },
          Qt::QueuedConnection);
    });
  }

 private:
  std::stop_source stop_;
  QThreadPool pool_;
  int open_ = 0;  ///< of the asking thread alone
};

}  // namespace session
