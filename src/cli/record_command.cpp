#include <QCoreApplication>
#include <QTemporaryDir>
#include <QTimer>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/frames_json.h"
#include "session/frame_recorder.h"
#include "session/output_file.h"
#include "session/pass_result.h"
#include "store/json_text.h"

namespace cli {

core::Status recordCommand(const RecordOptions& options, std::ostream& out) {
  if (auto checked = session::FrameRecorder::check(); !checked) return checked;
  const QTemporaryDir scratch;
  session::FrameRecorder recorder(scratch.filePath(QStringLiteral("rings")).toStdString());
  bench::LocalBench bench;
  constexpr double kNoLimit = 1e6;
  const auto running = bench.start({{recorder.environment({}), options.command, {}}, ".", kNoLimit});
  QTimer looking;
  QObject::connect(&looking, &QTimer::timeout, [&] { recorder.look(); });
  looking.start(1000);
  bench::CommandOutcome outcome;
  QObject::connect(running.get(), &bench::RunningCommand::finished, [&](const bench::CommandOutcome& ended) {
    outcome = ended;
    QCoreApplication::exit(0);
  });
  QCoreApplication::exec();
  recorder.look();
  if (const auto failure = session::failureOf(outcome, options.command.front(), kNoLimit)) return *failure;
  const auto frame_ms = recorder.frameMs();
  if (!frame_ms) return frame_ms.error();
  if (!options.out_path.empty()) {
    std::string log = "frame_ms\n";
    for (const double d : *frame_ms) log += fmt::format("{}\n", d);
    if (auto written = session::writeOutput(options.out_path, log); !written) return written;
  }
  const session::FrameRecorder::Window& window = *recorder.busiest();
  const store::ImportedRun run{"recorded", {frame_ms->begin(), frame_ms->end()}, {}};
  const auto said = framesJson(run, options.target_fps);
  if (!said) return said.error();
  if (options.as_json) {
    auto all = *said;
    all["shown_frames"] = window.written;
    all["presentation"] = window.presentation.sentence();
    out << store::jsonText(all, 1) << '\n';
    return core::Done{};
  }
  out << fmt::format("{} frames shown through {}.\n{}", window.written, window.presentation.sentence(),
                     framesLine(run));
  return core::Done{};
}

}  // namespace cli
