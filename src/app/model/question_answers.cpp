#include "app/model/question_answers.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/machine/device_path.h"
#include "core/values/number_text.h"

namespace app {
namespace {

QString nameOr(const std::string& name, const QString& otherwise) { return name.empty() ? otherwise : toQt(name); }

QStringList namesOf(const core::Variable& variable) {
  QStringList names;
  for (const core::Level& level : variable.levels) names << nameOr(level.name, tr("a level without a name"));
  return names;
}

QString whoBrings(const core::Variable& variable) {
  const bool is_by_hand = std::all_of(variable.levels.begin(), variable.levels.end(), [](const core::Level& level) {
    return level.prefix.empty() && level.environment.empty() && level.set_command.empty() && level.writes.empty();
  });
  if (!is_by_hand) return tr("the program switches it");
  const core::VariableKind* kind = core::findVariableKind(variable.kind);
  if (kind && kind->is_whole) return tr("a person swaps it");
  if (kind && (kind->needs_reboot || kind->restarts_by_hand)) return tr("each flip is a restart");
  return tr("a person sets it");
}

std::string read(const core::Capture& capture, std::string_view name) {
  const core::Fact* fact = capture.find(name);
  return fact && fact->isRead() ? fact->shown() : std::string();
}

QString joined(const core::Capture& capture, std::initializer_list<std::string_view> names) {
  QStringList parts;
  for (const std::string_view name : names)
    if (const std::string text = read(capture, name); !text.empty()) parts << toQt(text);
  return parts.join(QStringLiteral(", "));
}

}  // namespace

QString whatIsChanged(const core::Study& study) {
  QStringList names;
  for (const core::Variable& one : study.variables)
    if (!one.name.empty()) names << tr("%1: %2").arg(toQt(one.name), whoBrings(one));
  if (names.isEmpty()) return tr("nothing yet");
  const QString where = study.bench.empty() ? QString() : tr(", on %1").arg(toQt(study.bench));
  return names.join(QStringLiteral("; ")) + where;
}

QString betweenWhich(const core::Study& study) {
  if (study.shape == core::Shape::Chain) return tr("a chain of %1 configurations").arg(study.configurations.size());
  const QStringList names = namesOf(study.variable());
  if (study.shape == core::Shape::Pair) return tr("from %1 to %2").arg(names[0], names[1]);
  QStringList each;
  for (const core::Variable& one : study.variables) each << namesOf(one).join(QStringLiteral(", "));
  return each.join(tr("; crossed with "));
}

QString measuredWith(const core::Study& study) {
  QStringList titles;
  for (const core::Case& one : study.cases)
    if (!one.workload.empty()) titles << toQt(one.title()) + (one.is_control ? tr(" (a control)") : QString());
  if (titles.isEmpty()) return tr("nothing yet");
  if (titles.size() == 1) return titles.front();
  return tr("%1 cases: %2").arg(titles.size()).arg(titles.join(QStringLiteral("; ")));
}

QString whatMatters(const core::Study& study) {
  QString text = tr("%1 %").arg(study.notice_threshold_percent);
  if (study.notice_threshold_ms) text += tr(" or %1 ms per frame, whichever is more").arg(*study.notice_threshold_ms);
  text += tr("; target rate %1 FPS; ").arg(study.target_fps);
  return text + (study.school == core::School::AsDelivered ? tr("the machine as delivered") : tr("with headroom"));
}

int firstOpenStep(const core::Study& study) {
  const core::Variable& variable = study.variable();
  if (variable.name.empty() && variable.kind.empty()) return 1;
  const auto has_name = [](const core::Level& level) { return !level.name.empty(); };
  if (!std::all_of(variable.levels.begin(), variable.levels.end(), has_name)) return 2;
  const auto is_said = [](const core::Case& one) { return !one.workload.empty(); };
  return std::any_of(study.cases.begin(), study.cases.end(), is_said) ? 0 : 3;
}

std::vector<std::pair<QString, QString>> partsOf(const core::Capture& capture) {
  std::vector<std::pair<QString, QString>> parts;
  const auto put = [&](const QString& name, const QString& text) {
    if (!text.isEmpty()) parts.emplace_back(name, text);
  };
  QString processor = joined(capture, {"cpu/model"});
  if (const auto cores = capture.number("cpu/cores")) processor += tr(", %1 cores").arg(static_cast<int>(*cores));
  if (const std::string governor = read(capture, "cpu/governor"); !governor.empty())
    processor += (processor.isEmpty() ? tr("%1 governor") : tr(", %1 governor")).arg(toQt(governor));
  put(tr("processor"), processor);
  QString memory = joined(capture, {"memory/installed"});
  if (memory.isEmpty()) memory = joined(capture, {"memory/total"});
  for (const core::Fact& fact : capture.below("dmi/memory/"))
    if (fact.isRead() && fact.name.ends_with("/configured_speed")) {
      memory += QStringLiteral(", ") + toQt(fact.shown());
      break;
    }
  put(tr("memory"), memory);
  const std::string device = core::likelyGraphicsDevice(capture);
  const core::DevicePath path = core::devicePath(capture, device);
  if (const core::Hop* slot = path.slotHop()) put(tr("graphics link"), toQt(slot->text()));
  if (const auto mains = capture.number("power/mains")) put(tr("power"), *mains > 0 ? tr("mains") : tr("battery"));
  put(tr("system"), joined(capture, {"kernel/osrelease"}));
  return parts;
}

QString ratesText(const std::vector<double>& rates_fps) { return toQt(fmt::format("{:g}", fmt::join(rates_fps, " "))); }

std::vector<double> ratesOf(const QString& text) {
  std::vector<double> rates;
  for (const QString& one : text.split(QLatin1Char(' '), Qt::SkipEmptyParts))
    if (const auto rate = core::numberOf(one.toStdString())) rates.push_back(*rate);
  return rates;
}

}  // namespace app
