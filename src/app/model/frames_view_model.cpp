#include "app/model/frames_view_model.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>
#include <span>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/frames/frame_metrics.h"
#include "core/values/number_text.h"

namespace app {
namespace {

// A level's mean trace is drawn in so many steps.
constexpr int kLevelSteps = 240;

double endOf(const FramesTrace& trace) {
  return trace.positions.size() < 2
             ? 1
             : trace.positions.back() + (trace.positions.back() - trace.positions[trace.positions.size() - 2]);
}

}  // namespace

bool FramesViewModel::isSealed(std::size_t case_index) const {
  const auto& cases = study_.study().cases;
  return case_index < cases.size() && study_.judgement().isSealed(cases[case_index]);
}

std::vector<FramesChoice> FramesViewModel::choices(std::size_t case_index) const {
  std::vector<FramesChoice> choices;
  if (!study_.hasStudy() || case_index >= study_.study().cases.size()) return choices;
  if (isSealed(case_index)) return choices;
  for (const core::Pass& pass : study_.session().recorded().passes) {
    const core::Slot& slot = study_.session().open().schedule()[pass.slot];
    if (slot.case_index != case_index || !pass.frames) continue;
    QString title =
        tr("visit %1, %2 %3").arg(slot.visit).arg(slot.is_warm_up ? tr("warm-up") : tr("pass")).arg(slot.number);
    title += QStringLiteral(" · ") + toQt(study_.study().nameOf(slot.configuration));
    choices.push_back({title, pass.id, std::nullopt});
  }
  if (choices.empty()) return choices;
  for (const core::ConfigurationId configuration : core::configurationsOf(study_.study()))
    choices.push_back({tr("all of %1").arg(toQt(study_.study().nameOf(configuration))), 0, configuration});
  return choices;
}

FramesTrace FramesViewModel::trace(const FramesChoice& choice, std::size_t case_index, core::TraceAxis axis) const {
  if (choice.configuration) return levelTrace(choice, case_index, axis);
  FramesTrace trace;
  const auto frames = study_.session().open().file().frames(choice.pass_id);
  if (!frames) return trace;
  trace.title = choice.title;
  trace.frame_ms = *frames;
  trace.pooled_ms = *frames;
  trace.positions = core::tracePositions(trace.frame_ms, axis);
  if (const auto samples = study_.session().open().file().samples(choice.pass_id)) trace.samples = *samples;
  const std::string of_pass = fmt::format("{}@", choice.pass_id);
  for (const store::Event& event : study_.session().recorded().events) {
    const auto* note = std::get_if<core::NoteMade>(&event.act);
    if (note == nullptr || !note->moment.starts_with(of_pass)) continue;
    if (const auto at = core::numberOf(note->moment.substr(of_pass.size())))
      trace.notes.push_back({*at, toQt(note->text)});
  }
  return trace;
}

FramesTrace::Series FramesTrace::seriesOf(const std::string& channel, core::TraceAxis axis) const {
  const auto named = [&](const core::Channel& each) { return each.name == channel; };
  if (const auto found = std::find_if(samples.by_frame.begin(), samples.by_frame.end(), named);
      found != samples.by_frame.end())
    return {positions, found->values};
  const auto found = std::find_if(samples.channels.begin(), samples.channels.end(), named);
  if (found == samples.channels.end()) return {};
  Series series{samples.at_s, found->values};
  const double total_s = std::accumulate(pooled_ms.begin(), pooled_ms.end(), 0.0) / 1000;
  if (axis != core::TraceAxis::Seconds && total_s > 0)
    for (double& at : series.positions) at *= 100 / total_s;
  return series;
}

std::vector<std::vector<double>> FramesViewModel::levelFrames(std::size_t case_index,
                                                              core::ConfigurationId configuration) const {
  std::vector<std::vector<double>> passes;
  const std::vector<std::int64_t>& counted = study_.judgement().findings.cases.at(case_index).counted;
  for (const core::Pass& pass : study_.session().recorded().passes) {
    const bool counts = study_.session().open().schedule()[pass.slot].configuration == configuration &&
                        std::find(counted.begin(), counted.end(), pass.id) != counted.end();
    if (!counts) continue;
    auto frames = study_.session().open().file().frames(pass.id);
    if (frames && !frames->empty()) passes.push_back(*std::move(frames));
  }
  return passes;
}

FramesTrace FramesViewModel::levelTrace(const FramesChoice& choice, std::size_t case_index,
                                        core::TraceAxis axis) const {
  const auto passes = levelFrames(case_index, *choice.configuration);
  FramesTrace trace;
  if (passes.empty()) return trace;
  double end = 100;
  if (axis == core::TraceAxis::Seconds) {
    end = std::numeric_limits<double>::max();
    for (const std::vector<double>& frames : passes)
      end = std::min(end, std::accumulate(frames.begin(), frames.end(), 0.0) / 1000);
  }
  trace.title = choice.title;
  trace.frame_ms.assign(kLevelSteps, 0);
  for (const std::vector<double>& frames : passes) {
    const auto means = core::meanByStretch(frames, core::tracePositions(frames, axis), end, kLevelSteps);
    for (std::size_t i = 0; i < means.size(); ++i) trace.frame_ms[i] += means[i] / static_cast<double>(passes.size());
    trace.pooled_ms.insert(trace.pooled_ms.end(), frames.begin(), frames.end());
  }
  for (int i = 0; i < kLevelSteps; ++i) trace.positions.push_back(end * i / kLevelSteps);
  return trace;
}

FramesMetrics FramesViewModel::metrics(const FramesTrace& trace, double from, double to) const {
  const bool is_level = trace.pooled_ms.size() != trace.frame_ms.size();
  const auto first = std::lower_bound(trace.positions.begin(), trace.positions.end(), from);
  const auto last = std::upper_bound(first, trace.positions.end(), to);
  const std::span<const double> within(trace.frame_ms.begin() + (first - trace.positions.begin()),
                                       static_cast<std::size_t>(last - first));
  const std::span<const double> frames = is_level ? std::span<const double>(trace.pooled_ms) : within;
  constexpr std::array kLows{1.0, 0.1};
  FramesMetrics said{trace.title, {}, false, is_level};
  const auto found = core::frameMetrics(frames, kLows);
  if (!found) return said;
  const auto number = [](double value) { return toQt(fmt::format("{:.1f}", value)); };
  said.cells << toQt(core::wholeText(static_cast<std::int64_t>(found->frames))) << number(found->total_ms / 1000)
             << number(found->average_fps);
  for (const core::Lows& lows : found->lows)
    for (const core::Low* low : {&lows.percentile, &lows.slowest_mean, &lows.time_share}) {
      said.cells << number(low->fps) + (low->isThin() ? QStringLiteral("*") : QString());
      said.is_thin = said.is_thin || low->isThin();
    }
  for (const double target : study_.study().targets())
    said.cells << number(100 * core::timeBelowTarget(frames, target));
  said.cells << QString::fromStdString(std::to_string(found->stutter_frames.size()))
             << QString::fromStdString(std::to_string(found->stalls.size()));
  for (const double per_minute : found->long_frames.per_minute) said.cells << toQt(fmt::format("{:.3g}", per_minute));
  said.cells << number(found->long_frames.longest_ms);
  return said;
}

FramesMetrics::Head FramesViewModel::metricsHead() const {
  const auto one = [](const QString& name) { return std::pair(name, QStringList()); };
  // One rate that is held stands in the name of its column, several stand under it.
  const auto below = [&](const std::vector<double>& targets) {
    QStringList rates;
    for (const double target : targets) rates << toQt(fmt::format("{:g} FPS", target));
    return rates.size() == 1 ? one(tr("time below %1, %").arg(rates[0])) : std::pair(tr("time below, %"), rates);
  };
  const QStringList ways{tr("percentile"), tr("mean of slowest"), tr("time share")};
  return {one(tr("frames")),
          one(tr("time, s")),
          one(tr("average, FPS")),
          {tr("1 % low, FPS"), ways},
          {tr("0.1 % low, FPS"), ways},
          below(study_.study().targets()),
          one(tr("stutters")),
          one(tr("stalls")),
          {tr("frames a minute over"), {tr("25 ms"), tr("50 ms"), tr("100 ms")}},
          one(tr("longest, ms"))};
}

std::vector<double> FramesViewModel::stretchPercents(const FramesTrace& first, const FramesTrace& second) {
  const double end = std::min(endOf(first), endOf(second));
  const auto a = core::meanByStretch(first.frame_ms, first.positions, end, kStretches);
  const auto b = core::meanByStretch(second.frame_ms, second.positions, end, kStretches);
  std::vector<double> percents;
  for (std::size_t i = 0; i < a.size(); ++i) percents.push_back(b[i] > 0 ? 100 * (a[i] / b[i] - 1) : 0);
  return percents;
}

}  // namespace app
