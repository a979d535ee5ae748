#pragma once

#include <QEvent>
#include <functional>
#include <optional>
#include <utility>

#include "core/values/fault.h"

namespace session {

/// An application whose events are caught at their top: what one of them throws is told, and the program goes on to
/// its orderly end instead of dying with settings not put back. `App`: QCoreApplication or QApplication.
template <class App>
class Guarded final : public App {
 public:
  using OnFault = std::function<void(const core::Error&)>;

  Guarded(int& argc, char** argv) : App(argc, argv) {}
  /// Who is told. Until then the fault is kept.
  void setOnFault(OnFault on_fault) { on_fault_ = std::move(on_fault); }
  /// The study in hand, for the sentence.
  void setPlace(std::function<std::string()> place) { place_ = std::move(place); }
  [[nodiscard]] const std::optional<core::Error>& fault() const { return fault_; }
  /// The fault, which is dealt with: the next one is told again.
  std::optional<core::Error> takeFault() { return std::exchange(fault_, std::nullopt); }

  bool notify(QObject* receiver, QEvent* event) override {
    try {
      return App::notify(receiver, event);
    } catch (const std::exception& thrown) {
      const bool is_first = !fault_;
      fault_ = core::faultOf(thrown, place_ ? place_() : "");
      if (on_fault_ && is_first) on_fault_(*fault_);  // once: the next picture of the same thing throws again
      return true;
    }
  }

 private:
  OnFault on_fault_;
  std::function<std::string()> place_;
  std::optional<core::Error> fault_;
};

}  // namespace session
