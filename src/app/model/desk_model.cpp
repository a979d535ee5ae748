#include "app/model/desk_model.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "app/model/qt_text.h"
#include "core/desk/desk_typed.h"

namespace app {

void DeskModel::choose(int ask) {
  if (ask < 0 || static_cast<std::size_t>(ask) >= core::deskAsks().size()) return;
  asked_ = static_cast<std::size_t>(ask);
  work();
}

QString DeskModel::typed(int input) const {
  const auto found = typed_.find({asked_, input});
  return found == typed_.end() ? QString() : found->second;
}

void DeskModel::type(int input, const QString& text) {
  typed_[{asked_, input}] = text;
  work();
}

void DeskModel::setBench(const core::Capture* capture, const std::string& device) {
  bench_ = capture ? *capture : core::Capture();
  device_ = device;
  Q_EMIT changed();
}

core::DeskNumbers DeskModel::fromBench() const { return core::deskFromBench(ask(), bench_, device_); }

void DeskModel::takeFromBench() {
  const core::DeskNumbers numbers = fromBench();
  for (int i = 0; i < static_cast<int>(ask().inputs.size()); ++i)
    if (const auto found = numbers.find(std::string(ask().inputs[static_cast<std::size_t>(i)].key));
        found != numbers.end())
      typed_[{asked_, i}] = toQt(fmt::format("{:.6g}", found->second.front()));
  work();
}

// "generation and lanes": what nobody has said yet; empty where all is there.
QString DeskModel::missing(const core::DeskNumbers& given) const {
  QStringList titles;
  for (const core::DeskInput& one : ask().inputs)
    if (one.is_needed && !one.usually && !given.contains(std::string(one.key))) titles << toQt(std::string(one.title));
  return titles.join(QStringLiteral("; "));
}

std::string DeskModel::titleOf(const std::string& key) const {
  for (const core::DeskInput& one : ask().inputs)
    if (one.key == key) return std::string(one.title);
  return key;
}

void DeskModel::drawToScale(std::span<const core::DeskValue> answer) {
  const auto numberOf = [](const core::DeskValue& one) {
    const auto* number = std::get_if<std::optional<double>>(&one.value);
    return number && *number ? std::abs(**number) : 0.0;
  };
  for (std::size_t i = 0; i < answer.size(); ++i) {
    if (const double part = numberOf(answer[i]); part > 0 && answer[i].key.find("share") != std::string_view::npos) {
      answers_[i].share = std::min(1.0, part);  // the longer of the two fills the room
      answers_[i].whole = std::min(1.0, 1 / part);
      continue;
    }
    double most = 0;
    int alike = 0;
    for (const core::DeskValue& one : answer) {
      if (one.unit != answer[i].unit || one.unit.empty() || numberOf(one) == 0) continue;
      most = std::max(most, numberOf(one));
      ++alike;
    }
    if (alike > 1) answers_[i].share = numberOf(answer[i]) / most;
  }
}

// What a text tells of other numbers holds where nothing else was typed for those.
core::Result<core::DeskNumbers> DeskModel::numbers() const {
  core::DeskNumbers all;
  core::DeskNumbers beside;
  for (int i = 0; i < static_cast<int>(ask().inputs.size()); ++i) {
    const QString text = typed(i).trimmed();
    if (text.isEmpty()) continue;
    const core::DeskInput& input = ask().inputs[static_cast<std::size_t>(i)];
    const auto typed = core::deskTyped(ask(), input, text.toStdString());
    if (!typed) return typed.error();
    for (const auto& [key, values] : *typed) (key == input.key ? all : beside).emplace(key, values);
  }
  for (const auto& [key, values] : beside)
    if (const auto own = all.find(key); own != all.end() && own->second != values)
      return core::Error{core::ErrorKind::Malformed, "two numbers are typed for it", key, "Leave one of them out"};
  all.merge(beside);
  return all;
}

void DeskModel::work() {
  answers_.clear();
  told_.clear();
  const auto given = numbers();
  const QString missing = given ? this->missing(*given) : QString();
  const auto answer = given ? core::deskAnswer(ask().id, *given) : given.error();
  if (answer) {
    for (const core::DeskValue& one : *answer) {
      const auto* number = std::get_if<std::optional<double>>(&one.value);
      answers_.push_back({toQt(std::string(one.title)), toQt(core::deskValueText(one)), number ? *number : std::nullopt,
                          std::string(one.unit)});
    }
    drawToScale(*answer);
  } else if (!missing.isEmpty()) {
    told_ = tr("The answer stands here once this is typed: %1.").arg(missing);
  } else {
    told_ = toQt(fmt::format("{}: {}. {}.", titleOf(answer.error().where), answer.error().what, answer.error().remedy));
  }
  Q_EMIT changed();
}

}  // namespace app
