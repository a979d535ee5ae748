#include "app/model/practice_model.h"

#include <QDir>
#include <QFileInfo>

#include "app/model/qt_text.h"

namespace app {

PracticeModel::PracticeModel(const bench::BenchConnection& bench, session::UserFiles files, QObject* parent)
    : QObject(parent),
      bench_(bench),
      files_(std::move(files)),
      record_(files_.practice),
      exercises_(session::exercises()) {
  if (auto free = session::exerciseOf("free")) exercises_.push_back(*std::move(free));
}

void PracticeModel::begin(const session::PracticeStart& start) {
  const QDir studies(QString::fromStdString(files_.studies) + QStringLiteral("/practice"));
  session::PracticeStart here = start;
  for (int number = 1;; ++number) {
    const QString folder = studies.filePath(QStringLiteral("%1-%2").arg(toQt(start.exercise)).arg(number));
    if (QFileInfo::exists(folder)) continue;
    here.folder = folder.toStdString();
    break;
  }
  const auto begun = session::startPractice(here, bench_);
  if (!begun) return Q_EMIT failed(toQt(begun.error().sentence()));
  Q_EMIT openRequested(QString::fromStdString(begun->study));
}

void PracticeModel::takeStudy(const QString& study_path, const QString& bench) {
  bench_name_ = bench;
  folder_ = QFileInfo(study_path).absolutePath();
  look();
}

void PracticeModel::look() {
  try_.reset();
  outcome_.reset();
  if (auto found = session::practiceIn(folder_.toStdString())) try_ = *std::move(found);
  if (try_ && try_->is_signed) {
    auto revealed = session::revealPractice(folder_.toStdString(), record_);
    if (revealed)
      outcome_ = *std::move(revealed);
    else
      Q_EMIT failed(toQt(revealed.error().sentence()));
  }
  Q_EMIT changed();
}

void PracticeModel::setBench(const QString& assignment) {
  if (!try_) return;
  const core::Status set = session::setPracticeBench(*try_, assignment.toStdString(), bench_);
  if (!set) return Q_EMIT failed(toQt(set.error().sentence()));
  Q_EMIT informed(tr("The bench has restarted."));
}

void PracticeModel::sign(const session::PracticeClaim& claim) {
  if (!try_) return;
  if (const core::Status is_signed = session::signPractice(folder_.toStdString(), claim); !is_signed)
    Q_EMIT failed(toQt(is_signed.error().sentence()));
  look();
}

QStringList PracticeModel::record() const {
  const auto entries = record_.all();
  QStringList lines{toQt(session::calibrationText(session::calibrationOf(entries)))};
  for (const auto& [exercise, one] : session::calibrationByExercise(entries))
    lines << tr("%1: %2 of %3").arg(toQt(exercise)).arg(one.held).arg(one.claims);
  return lines;
}

void PracticeModel::forget() {
  if (const core::Status forgotten = record_.forget(); !forgotten) Q_EMIT failed(toQt(forgotten.error().sentence()));
  Q_EMIT changed();
}

}  // namespace app
