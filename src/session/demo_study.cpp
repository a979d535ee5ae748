#include "session/demo_study.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QProcess>

#include "store/json/study_json.h"

// Outside any namespace, as the macro demands; a static library's resources are not found by themselves.
static void initDemoResources() { Q_INIT_RESOURCE(demo); }

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

std::string resourceText(const char* path) {
  QFile file(QString::fromLatin1(path));
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

core::Status makeBench(const QDir& folder, const bench::BenchConnection& bench) {
  const QString truth_path = folder.filePath(QStringLiteral("truth.json"));
  if (auto written = writeFile(truth_path, resourceText(":/demo/dome_node_3.json")); !written) return written;
  const auto program = bench.findProgram("iron-lever-simbench", folder.path().toStdString());
  if (!program) return program.error();
  QProcess process;
  process.start(QString::fromStdString(*program),
                {QStringLiteral("init"), QStringLiteral("--state"), folder.filePath(QStringLiteral("bench")),
                 QStringLiteral("--truth"), truth_path});
  process.waitForFinished();
  QFile::remove(truth_path);  // the bench keeps its own copy
  if (process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0) return core::Done{};
  return Error{ErrorKind::CommandFailed, process.readAllStandardError().trimmed().toStdString(), "simulated bench",
               "Choose an empty folder"};
}

// The demo's commands are approved unread, because they are ours. Whoever plays with it may plan and judge otherwise.
bool isDemo(const core::Study& study, core::Study demo) {
  demo.plan = study.plan;
  demo.notice_threshold_percent = study.notice_threshold_percent;
  demo.confidence = study.confidence;
  demo.target_fps = study.target_fps;
  demo.band_percent = study.band_percent;
  demo.yardstick = study.yardstick;
  return study == demo;
}

}  // namespace

std::string demoMark() {
  initDemoResources();
  const std::string whole = resourceText(":/demo/memory_speed.json") + resourceText(":/demo/dome_node_3.json");
  return QCryptographicHash::hash(QByteArray::fromStdString(whole), QCryptographicHash::Sha256)
      .toHex()
      .left(8)
      .toStdString();
}

std::string demoStudyPath(const std::string& folder) { return folder + "/memory-speed.ironlever"; }

core::Result<std::unique_ptr<Session>> openDemo(const std::string& folder, bench::BenchConnection& bench) {
  initDemoResources();
  const QDir place(QDir(QString::fromStdString(folder)).absolutePath());
  if (!place.mkpath(QStringLiteral(".")))
    return Error{ErrorKind::Io, "the demo's folder cannot be made", folder, "Choose a folder that you may write to"};
  const std::string path = demoStudyPath(place.path().toStdString());
  if (!place.exists(QStringLiteral("bench/state.json")))
    if (auto made = makeBench(place, bench); !made) return made.error();
  const auto design = store::studyFromJson(resourceText(":/demo/memory_speed.json"), "demo design");
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
