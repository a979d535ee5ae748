#include <signal.h>

#include <QCoreApplication>
#include <QTimer>
#include <chrono>
#include <utility>

#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/commands/stop_signals.h"
#include "cli/commands/terminal_program.h"
#include "cli/compute/frames_json.h"
#include "recorder/frame_facts.h"
#include "session/programs/frame_recorder.h"
#include "session/programs/pass_result.h"
#include "session/user/global_key.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using recorder::RecordedFrame;
using session::FrameRecorder;

std::int64_t nowNs() { return std::chrono::steady_clock::now().time_since_epoch() / std::chrono::nanoseconds(1); }

/// One recording from the start of the program to the end of all that it started.
class Recording {
 public:
  Recording(const RecordOptions& options, FrameRecorder& recorder, TerminalProgram& program)
      : options_(options), recorder_(recorder), program_(program) {
    QObject::connect(&watching_, &QTimer::timeout, [this] { watch(); });
    QObject::connect(&key_, &session::GlobalKey::pressed, [this] { span_.from = nowNs(); });
  }

  core::Status run() {
    if (options_.has_start_key) {
      span_.from = kNever;
      if (!key_.hold(true))
        return Error{ErrorKind::Missing, "the key cannot be had: there is no X display, or another program holds it",
                     session::GlobalKey::name().toStdString(), "Count from the first frame instead"};
    }
    constexpr int kWatchMs = 50;
    watching_.start(kWatchMs);
    QCoreApplication::exec();
    recorder_.look();
    return core::Done{};
  }

  // What the terminal sends, it has sent to the program too.
  void stop(int number, bool is_of_terminal) {
    // Asked twice, there is no third time.
    if (std::exchange(is_stopped_, true)) return program_.signal(SIGKILL);
    if (!is_of_terminal) program_.signal(number);
    if (number != SIGINT) {
      has_asked_ = true;
      asked_ns_ = nowNs();
    }
  }

  [[nodiscard]] bool isStopped() const { return is_stopped_; }
  [[nodiscard]] bool isEndedByUs() const { return has_asked_; }

  // The frames that count: from the first or the key on, as many or as long as were asked for.
  [[nodiscard]] core::Result<std::vector<RecordedFrame>> frames() const {
    if (span_.from == kNever)
      return Error{ErrorKind::TooFew, "nothing was counted: the key was not pressed",
                   session::GlobalKey::name().toStdString(), "Press it while the program runs"};
    auto frames = recorder_.frames(span_, options_.program);
    if (!frames) return frames;
    if (options_.frames > 0 && frames->size() > options_.frames) frames->resize(options_.frames + 1);
    if (options_.seconds > 0) {
      const std::int64_t end = beginOf(*frames) + static_cast<std::int64_t>(options_.seconds * 1e9);
      std::erase_if(*frames, [end](const RecordedFrame& frame) { return frame.handed_over > end; });
    }
    if (frames->size() < 2)
      return Error{ErrorKind::TooFew, "only one frame was handed over", "recorded frames", "Let it run for longer"};
    return frames;
  }
  [[nodiscard]] const FrameRecorder::Stream* counted() const { return recorder_.counted(span_, options_.program); }

 private:
  static constexpr std::int64_t kNever = INT64_MAX;

  const RecordOptions& options_;
  FrameRecorder& recorder_;
  TerminalProgram& program_;
  QTimer watching_;
  session::GlobalKey key_;
  FrameRecorder::Span span_;
  std::int64_t looks_at_ns_ = 0;
  bool is_stopped_ = false;
  bool has_asked_ = false;
  std::int64_t asked_ns_ = 0;

  [[nodiscard]] std::int64_t beginOf(std::span<const RecordedFrame> frames) const {
    return span_.from == INT64_MIN ? frames.front().handed_over : span_.from;
  }

  void watch() {
    const bool is_over = program_.isOver();
    const bool has_limit = options_.frames > 0 || options_.seconds > 0;
    if (nowNs() >= looks_at_ns_ || is_over) {
      recorder_.look();
      looks_at_ns_ = nowNs() + (has_limit ? 1 : recorder_.lookAgainMs()) * std::int64_t{1'000'000};
      if (has_limit && !has_asked_ && isComplete()) ask(SIGTERM);
    }
    constexpr std::int64_t kPatience = 3'000'000'000;
    if (has_asked_ && nowNs() - asked_ns_ > kPatience) program_.signal(SIGKILL);
    if (is_over) QCoreApplication::exit(0);
  }

  [[nodiscard]] bool isComplete() const {
    const FrameRecorder::Stream* stream = span_.from == kNever ? nullptr : counted();
    if (stream == nullptr) return false;
    const auto frames = FrameRecorder::within(*stream, span_);
    if (options_.frames > 0 && frames.size() > options_.frames) return true;
    return options_.seconds > 0 && nowNs() - beginOf(frames) > static_cast<std::int64_t>(options_.seconds * 1e9);
  }

  void ask(int number) {
    has_asked_ = true;
    asked_ns_ = nowNs();
    program_.signal(number);
  }
};

nlohmann::ordered_json factsJson(const recorder::FrameFacts& facts) {
  nlohmann::ordered_json object{{"waited_ms", facts.waited_ms}};
  if (facts.thread_ms) object["thread_ms"] = *facts.thread_ms;
  if (facts.program_ms) object["program_ms"] = *facts.program_ms;
  if (facts.device_ms) object["device_ms"] = *facts.device_ms;
  if (facts.possibly_generated > 0) object["possibly_generated_frames"] = facts.possibly_generated;
  if (facts.shown) {
    nlohmann::ordered_json& shown = object["display"] = {{"known_frames", facts.shown->known},
                                                         {"on_screen_frames", facts.shown->shown},
                                                         {"skipped_frames", facts.shown->skipped},
                                                         {"shown_fps", facts.shown->fps}};
    if (facts.shown->repeated) shown["repeated_refreshes"] = *facts.shown->repeated;
    if (facts.shown->refresh_ms) shown["refresh_ms"] = *facts.shown->refresh_ms;
  }
  return object;
}

std::string factsText(const recorder::FrameFacts& facts) {
  std::string text = "  Times are of the hand-over, not of the screen.\n";
  if (facts.shown) {
    text += fmt::format("  On the screen: {} of {} shown, {} skipped", facts.shown->shown, facts.shown->known,
                        facts.shown->skipped);
    if (facts.shown->repeated) text += fmt::format(", {} refreshes repeated a frame", *facts.shown->repeated);
    if (facts.shown->refresh_ms) text += fmt::format(", a refresh every {:.2f} ms", *facts.shown->refresh_ms);
    text += ".\n";
  }
  if (facts.thread_ms && facts.program_ms)
    text +=
        fmt::format("  Processor time a frame: {:.2f} ms of the thread that hands over, {:.2f} ms of the program.\n",
                    *facts.thread_ms, *facts.program_ms);
  if (facts.device_ms) text += fmt::format("  The graphics device works {:.2f} ms on a frame.\n", *facts.device_ms);
  if (facts.possibly_generated > 0)
    text += fmt::format("  {} frames came without any work for the device: possibly generated.\n",
                        facts.possibly_generated);
  return text;
}

core::Status writeLog(const std::string& path, const std::vector<RecordedFrame>& frames) {
  std::string log = "frame_ms,waited_ms,thread_ms,device_ms,hand_over_to_screen_ms\n";
  constexpr double kNsPerMs = 1e6;
  const auto ms = [](std::int64_t ns) { return static_cast<double>(ns) / kNsPerMs; };
  for (std::size_t i = 1; i < frames.size(); ++i) {
    const RecordedFrame& frame = frames[i];
    const RecordedFrame& before = frames[i - 1];
    log += fmt::format("{},{},{},", ms(std::max<std::int64_t>(1, frame.handed_over - before.handed_over)),
                       ms(frame.returned - frame.handed_over),
                       before.thread_time > 0 && frame.thread_time >= before.thread_time
                           ? fmt::format("{}", ms(frame.thread_time - before.thread_time))
                           : "");
    if (frame.device_time > 0) log += fmt::format("{}", ms(frame.device_time));
    log += ',';
    if (frame.shown > 0) log += fmt::format("{}", ms(frame.shown - frame.handed_over));
    log += '\n';
  }
  return session::writeOutput(path, log);
}

core::Status print(const RecordOptions& options, const FrameRecorder& recorder, const Recording& recording,
                   const std::vector<RecordedFrame>& frames, std::ostream& out) {
  const std::vector<double> frame_ms = session::frameMs(frames);
  const store::ImportedRun run{"recorded", {frame_ms.begin(), frame_ms.end()}, {}};
  const auto said = framesJson(run, options.target_fps);
  if (!said) return said.error();
  const recorder::FrameFacts facts = recorder::factsOf(frames);
  const FrameRecorder::Stream& counted = *recording.counted();
  if (options.as_json) {
    auto all = *said;
    all["clock"] = "hand-over";
    all["handed_over_frames"] = counted.frames.size();
    all["presentation"] = counted.presentation.sentence();
    all["facts"] = factsJson(facts);
    if (counted.unfit_shown > 0) all["facts"]["unfit_pictures"] = counted.unfit_shown;
    for (const FrameRecorder::Stream* stream : recorder.streams())
      all["streams"].push_back({{"program", stream->presentation.program},
                                {"process", stream->process},
                                {"presentation", stream->presentation.sentence()},
                                {"frames", stream->frames.size()},
                                {"counts", stream == &counted}});
    out << store::jsonText(all, 1) << '\n';
    return core::Done{};
  }
  out << fmt::format("{} frames handed over by {}.\n{}{}", counted.frames.size(), counted.title(), framesLine(run),
                     factsText(facts));
  if (counted.unfit_shown > 0)
    out << fmt::format(
        "  The display reported {} pictures that match no frame; its times for the others are uncertain.\n",
        counted.unfit_shown);
  for (const FrameRecorder::Stream* stream : recorder.streams())
    if (stream != &counted)
      out << fmt::format("  Not counted: {} frames by {}.\n", stream->frames.size(), stream->title());
  return core::Done{};
}

}  // namespace

core::Result<ExitCode> recordCommand(const RecordOptions& options, std::ostream& out) {
  if (auto checked = FrameRecorder::check(); !checked) return checked.error();
  FrameRecorder recorder(FrameRecorder::Noted{true, true, options.has_device_time});
  // From before there is a program: a signal is heard in the event loop, when there is a recording of it.
  Recording* heard_by = nullptr;
  const StopSignals stop_signals(
      [&heard_by](int number, bool is_of_terminal) { heard_by->stop(number, is_of_terminal); });
  auto program = TerminalProgram::start(options.command, recorder.environment({}), options.is_quiet);
  if (!program) return program.error();
  Recording recording(options, recorder, *program);
  heard_by = &recording;
  if (auto run = recording.run(); !run) {
    program->signal(SIGTERM);
    return run.error();
  }
  const auto frames = recording.frames();
  constexpr double kNoLimit = 1e9;
  auto failure = session::failureOf(program->outcome(), options.command.front(), kNoLimit);
  if (recording.isStopped() || recording.isEndedByUs()) failure.reset();
  if (!frames) return failure ? *failure : frames.error();
  if (!options.out_path.empty())
    if (auto written = writeLog(options.out_path, *frames); !written) return written.error();
  if (auto printed = print(options, recorder, recording, *frames, out); !printed) return printed.error();
  if (failure) {
    out.flush();
    failure->what += fmt::format("; the {} frames until then are kept", frames->size());
    return *failure;
  }
  return recording.isStopped() ? ExitCode::Stopped : ExitCode::Done;
}

}  // namespace cli
