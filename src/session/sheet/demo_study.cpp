#include "session/sheet/demo_study.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <algorithm>
#include <array>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "core/study/judging.h"
#include "session/programs/simulated_bench.h"
#include "store/json/study_json.h"

// Outside any namespace, as the macro demands; a static library's resources are not found by themselves.
static void initDemoResources() { Q_INIT_RESOURCE(demo); }

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

// One of three boards with one of two processors: the same question on each.
constexpr DemoStudy trialNode(const char* id, const char* next, const char* otherwise, double slower, int days_ago) {
  return {id,
          "one board with one processor",
          "",
          "trial_node.json",
          "dome_node_3.json",
          false,
          next,
          otherwise,
          slower,
          days_ago};
}

constexpr std::array kStudies{
    DemoStudy{"memory-speed", "two levels of memory speed", "What faster memory brings, in seven cases.",
              "memory_speed.json", "dome_node_3.json", false},
    DemoStudy{"memory-accident", "the same, with an accident on the way",
              "Something else changed at a flip: what the program stops, and what is done then.", "memory_speed.json",
              "dome_node_3.json"},
    DemoStudy{"link-ladder", "a ladder of the graphics link", "How much of the link is enough, over four generations.",
              "link_ladder.json", "dome_node_3_links.json"},
    DemoStudy{"aperture-crossed", "a feature crossed with the link",
              "Whether the feature still helps on the older link.", "aperture_crossed.json", "dome_node_3_links.json"},
    DemoStudy{"box-chain", "a chain to an external box", "Where the loss in an external box goes, step by step.",
              "box_chain.json", "dome_node_3_links.json"},
    DemoStudy{"memory-amount", "two amounts of memory",
              "What more memory makes possible, and what it does beside a recording.", "memory_amount.json",
              "dome_node_3_memory.json"},
    DemoStudy{"side-by-side", "studies side by side",
              "The same question last year, and a table of three boards with two processors: the cabinet.",
              "memory_speed.json", "dome_node_3.json", false, "board-2-q4",
              R"({"variables": {"memory_speed": {"levels": {"6000": {"memory": 0.87, "processor": 1.012}}}},
                  "machine": {"driver_version": "2E77B0", "kernel": "6.9.12-corvane"}})",
              1, 372},
    trialNode("board-2-q4", "board-2-q6", R"({"machine": {"board": "Corvane D2"}})", 1, 41),
    trialNode("board-2-q6", "board-3-q4",
              R"({"machine": {"board": "Corvane D2", "processor": "Ostrel Q6 6-Core Processor"}})", 0.93, 40),
    trialNode("board-3-q4", "board-3-q6", R"({"machine": {"board": "Corvane D3"}})", 0.985, 34),
    trialNode("board-3-q6", "board-4-q4",
              R"({"machine": {"board": "Corvane D3", "processor": "Ostrel Q6 6-Core Processor"}})", 0.89, 33),
    trialNode("board-4-q4", "board-4-q6", R"({"machine": {"board": "Corvane D4"}})", 1.04, 27),
    trialNode("board-4-q6", "", R"({"machine": {"board": "Corvane D4", "processor": "Ostrel Q6 6-Core Processor"}})",
              0.91, 26)};
constexpr std::size_t kToWatch = 7;

std::string resourceText(const std::string& name) {
  QFile file(QStringLiteral(":/demo/") + QString::fromStdString(name));
  return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
}

core::Status writeFile(const QString& path, const std::string& text) {
  QFile file(path);
  if (file.open(QIODevice::WriteOnly) &&
      file.write(text.data(), static_cast<qint64>(text.size())) == static_cast<qint64>(text.size()) && file.flush())
    return core::Done{};
  return Error{ErrorKind::Io, "the demo's files cannot be written", path.toStdString(),
               "Check the folder and the free space"};
}

std::string truthOf(const DemoStudy& demo) {
  auto truth = nlohmann::ordered_json::parse(resourceText(demo.truth));
  if (!demo.has_accidents) truth.erase("accidents");
  if (*demo.otherwise) truth.merge_patch(nlohmann::ordered_json::parse(demo.otherwise));
  if (demo.slower != 1)
    for (auto& [title, one] : truth["cases"].items())
      for (const char* part : {"processor_ms", "graphics_ms", "memory_ms", "link_ms"})
        if (one.contains(part)) one[part] = one[part].get<double>() * demo.slower;
  return truth.dump(1);
}

// The benches' clocks: each demo was measured on an afternoon of its own, the first one yesterday.
std::int64_t clockAheadMs(const DemoStudy& demo, std::size_t number) {
  const qint64 days = demo.days_ago > 0 ? demo.days_ago : 1 + static_cast<qint64>(number);
  const QDateTime begins(QDate::currentDate().addDays(-days), QTime(13, 0));
  return QDateTime::currentDateTime().msecsTo(begins);
}

core::Status makeBench(const QDir& folder, const DemoStudy& demo, const bench::BenchConnection& bench,
                       std::int64_t clock_ahead_ms) {
  const QString truth_path = folder.filePath(QStringLiteral("truth.json"));
  if (auto written = writeFile(truth_path, truthOf(demo)); !written) return written;
  auto made = runSimulatedBench(folder.path().toStdString(),
                                {"init", "--state", folder.filePath(QStringLiteral("bench")).toStdString(), "--truth",
                                 truth_path.toStdString(), "--clock-ahead-ms", fmt::format("{}", clock_ahead_ms)},
                                bench);
  QFile::remove(truth_path);  // the bench keeps its own copy
  return made;
}

// The demo's commands are approved unread, because they are ours. Whoever plays with it may plan and judge otherwise.
bool isDemo(const core::Study& study, core::Study demo) {
  demo.plan = study.plan;
  demo.confidence = study.confidence;
  demo.target_fps = study.target_fps;
  demo.further_targets_fps = study.further_targets_fps;
  return study == core::judgedBy(demo, core::judgingOf(study));
}

}  // namespace

std::string demoMark() {
  initDemoResources();
  std::string whole;
  for (const DemoStudy& one : kStudies) whole += resourceText(one.design) + truthOf(one);
  return QCryptographicHash::hash(QByteArray::fromStdString(whole), QCryptographicHash::Sha256)
      .toHex()
      .left(8)
      .toStdString();
}

std::span<const DemoStudy> demoStudies() { return std::span(kStudies).first(kToWatch); }

std::string nextDemo(const std::string& id) {
  for (const DemoStudy& one : kStudies)
    if (one.id == id) return one.next;
  return {};
}

std::string demoStudyPath(const std::string& folder) { return folder + "/" + kStudies.front().id + ".ironlever"; }

core::Result<std::unique_ptr<Session>> openDemo(const std::string& folder, bench::BenchConnection& bench,
                                                const std::string& id) {
  initDemoResources();
  const auto asked = std::find_if(kStudies.begin(), kStudies.end(), [&](const DemoStudy& one) { return one.id == id; });
  if (asked == kStudies.end())
    return Error{ErrorKind::Missing, "the demo has no study '" + id + "'", "demo", "Choose one that it lists"};
  const auto number = static_cast<std::size_t>(asked - kStudies.begin());
  const QDir root(QDir(QString::fromStdString(folder)).absolutePath());
  const QDir place(asked == kStudies.begin() ? root.path() : root.filePath(QString::fromLatin1(asked->id)));
  if (!place.mkpath(QStringLiteral(".")))
    return Error{ErrorKind::Io, "the demo's folder cannot be made", folder, "Choose a folder that you may write to"};
  const std::string path = place.path().toStdString() + "/" + asked->id + ".ironlever";
  if (!place.exists(QStringLiteral("bench/state.json")))
    if (auto made = makeBench(place, *asked, bench, clockAheadMs(*asked, number)); !made) return made.error();
  const auto design = store::newStudyFromJson(resourceText(asked->design), "demo design");
  if (!design) return design.error();
  if (!QFile::exists(QString::fromStdString(path)))
    if (auto made = store::StudyFile::create(path, *design); !made) return made.error();
  auto file = store::StudyFile::open(path);
  if (!file) return file.error();
  if (!isDemo(file->study(), *design))
    return Error{ErrorKind::NotAllowed, "another study lies where the demo's would be, so nothing of it is started",
                 path, "Choose an empty folder; open that study by its name to see what it would start"};
  auto session =
      std::make_unique<Session>(*std::move(file), bench, UserFiles::in(place.path().toStdString()), "M. Osei");
  if (session->problem()) return *session->problem();
  if (auto approved = session->approve(); !approved) return approved.error();
  return session;
}

}  // namespace session
