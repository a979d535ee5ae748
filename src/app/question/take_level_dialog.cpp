#include "app/question/take_level_dialog.h"

#include <QComboBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/model/study_model.h"
#include "app/shell/prompts.h"
#include "app/shell/usable.h"
#include "session/cabinet/cabinet.h"
#include "session/cabinet/read_study.h"

namespace app {
namespace {

void putLevelsOf(const core::Study& study, QComboBox& into) {
  for (const core::ConfigurationId one : core::configurationsOf(study))
    into.addItem(toQt(study.nameOf(one)), QString::fromStdString(study.nameOf(one)));
}

}  // namespace

TakeLevelDialog::TakeLevelDialog(StudyModel& study, Prompts& prompts, QWidget* parent)
    : QDialog(parent),
      study_(study),
      prompts_(prompts),
      level_(new QComboBox(this)),
      earlier_(new QComboBox(this)),
      called_(new QComboBox(this)),
      problem_(new QLabel(this)),
      take_(new QPushButton(tr("Take its passes"), this)) {
  setObjectName(QStringLiteral("takeLevelDialog"));
  setWindowTitle(tr("Take a level from an earlier study"));
  dress();
  auto* words = new QLabel(
      tr("An earlier study of this bench measured the level already: its passes and captures are taken over, and what "
         "else differs between the two shows under the doubts. They were not interleaved with what you measure now: "
         "whatever moved meanwhile looks like the change, and a caution says so wherever this study is read."),
      this);
  words->setWordWrap(true);
  auto* other = new QPushButton(tr("Another file …"), this);
  other->setObjectName(QStringLiteral("takeBrowseButton"));
  auto* cancel = new QPushButton(tr("Cancel"), this);
  auto* from = new QHBoxLayout;
  from->addWidget(earlier_, 1);
  from->addWidget(other);
  auto* form = new QFormLayout;
  form->addRow(tr("level of this study"), level_);
  form->addRow(tr("earlier study"), from);
  form->addRow(tr("called there"), called_);
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(take_);
  row->addWidget(cancel);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(10);
  column->addWidget(words);
  column->addLayout(form);
  column->addWidget(problem_);
  column->addLayout(row);
  connect(other, &QPushButton::clicked, this, &TakeLevelDialog::browse);
  connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
  connect(take_, &QPushButton::clicked, this, &TakeLevelDialog::take);
  connect(earlier_, &QComboBox::currentIndexChanged, this, &TakeLevelDialog::offerLevels);
  connect(level_, &QComboBox::currentIndexChanged, this, &TakeLevelDialog::matchLevel);
  offerStudies();
  resize(sizeHint().expandedTo(QSize(640, 0)));
}

void TakeLevelDialog::dress() {
  level_->setObjectName(QStringLiteral("takeLevelBox"));
  earlier_->setObjectName(QStringLiteral("takeEarlierBox"));
  called_->setObjectName(QStringLiteral("takeCalledBox"));
  problem_->setObjectName(QStringLiteral("takeProblem"));
  take_->setObjectName(QStringLiteral("takeLevelButton"));
  earlier_->setMinimumWidth(360);
  problem_->setWordWrap(true);
  problem_->hide();
  putLevelsOf(study_.study(), *level_);
  level_->setCurrentIndex(level_->count() - 1);
}

void TakeLevelDialog::offerStudies() {
  const std::string own = study_.session().open().file().identity();
  const auto called = store::BenchNames(study_.files().benches).now(study_.study().bench);
  const std::string bench = called ? *called : study_.study().bench;
  if (const auto found = session::Cabinet(study_.files()).find({}))
    for (const auto& entry : *found)
      if (entry.state == "complete" && entry.copy_of.empty() && entry.identity != own && entry.bench == bench) {
        const QString path = QString::fromStdString(entry.path);  // as it is: it is opened by it
        earlier_->addItem(toQt(QFileInfo(path).fileName().toStdString() + ": " + entry.sentence), path);
        earlier_->setItemData(earlier_->count() - 1, toQt(entry.path), Qt::ToolTipRole);
      }
  offerLevels();
}

void TakeLevelDialog::offerLevels() {
  called_->clear();
  problem_->hide();
  const QString path = earlier_->currentData().toString();
  setUsable(*take_, path.isEmpty() ? tr("Choose a study that measured it") : tr("That study is being read"));
  if (path.isEmpty()) return;
  reading_.run<core::Result<core::Study>>(
      [path = path.toStdString()]() -> core::Result<core::Study> {
        auto read = session::readStudy(path);
        if (!read) return read.error();
        return std::move(read->study);
      },
      [this, path](const core::Result<core::Study>& read) {
        if (path == earlier_->currentData().toString()) putLevels(read);
      });
}

void TakeLevelDialog::putLevels(const core::Result<core::Study>& read) {
  called_->clear();
  problem_->setVisible(!read.ok());
  if (read) {
    putLevelsOf(*read, *called_);
    matchLevel();
  } else {
    problem_->setText(toQt(read.error().sentence()));
  }
  setUsable(*take_, read ? QString() : tr("Choose a study that measured it"));
}

void TakeLevelDialog::matchLevel() { called_->setCurrentIndex(std::max(0, called_->findText(level_->currentText()))); }

void TakeLevelDialog::browse() {
  const auto path = prompts_.openStudyPath(this);
  if (!path) return;
  earlier_->addItem(QFileInfo(*path).fileName(), *path);
  earlier_->setCurrentIndex(earlier_->count() - 1);
}

void TakeLevelDialog::take() {
  session::Session& session = study_.session();
  const auto taken = session::takeLevel(
      session.open(), core::configurationAt(static_cast<std::size_t>(level_->currentIndex())),
      {earlier_->currentData().toString().toStdString(), called_->currentData().toString().toStdString()},
      store::BenchNames(study_.files().benches));
  if (!taken) {
    problem_->setText(toQt(taken.error().sentence()));
    problem_->show();
    return;
  }
  Q_EMIT session.decisions().planChanged();
  accept();
}

}  // namespace app
