#include "app/shell/welcome.h"

#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QStackedLayout>
#include <QTimer>
#include <QVBoxLayout>

#include "app/cabinet/cabinet_view.h"
#include "app/shell/recent_studies.h"
#include "app/shell/theme.h"
#include "session/sheet/demo_study.h"

namespace app {

Welcome::Welcome(CabinetModel& studies, QWidget* parent)
    : QWidget(parent), studies_(studies), cabinet_(new CabinetView(studies, this)) {
  auto* pages = new QStackedLayout(this);
  pages->addWidget(firstTime());
  pages->addWidget(withStudies());
  const auto choose = [this, pages] { pages->setCurrentIndex(studies_.studies() > 0 ? 1 : 0); };
  connect(&studies, &CabinetModel::statusChanged, this, choose);
  choose();
  // Until there are studies the list is not on show, and does not ask for them.
  connect(&studies, &CabinetModel::foldersChanged, this, &Welcome::lookForStudies);
}

void Welcome::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  QTimer::singleShot(0, this, &Welcome::lookForStudies);  // a study may be about to be opened
}

void Welcome::lookForStudies() {
  if (isVisible() && !cabinet_->isVisible()) studies_.refresh();
}

QWidget* Welcome::withStudies() {
  auto* page = new QWidget(this);
  auto* layout = new QVBoxLayout(page);
  layout->setContentsMargins(28, 20, 28, 20);
  layout->setSpacing(10);
  auto* title = new QLabel(tr("Your studies"), page);
  title->setFont(textFont(TextSize::Huge, true));
  auto* line = new QHBoxLayout;
  line->addWidget(title, 1);
  auto* fresh = new QPushButton(tr("New study"), page);
  fresh->setObjectName(QStringLiteral("cabinetNewButton"));
  auto* open = new QPushButton(tr("Open a study …"), page);
  open->setObjectName(QStringLiteral("cabinetOpenFileButton"));
  auto* demo = new QPushButton(tr("Watch a demo"), page);
  demo->setObjectName(QStringLiteral("cabinetDemoButton"));
  auto* demos = new QMenu(demo);
  for (const session::DemoStudy& one : session::demoStudies()) {
    const QString id = QString::fromUtf8(one.id);
    demos->addAction(tr(one.title), this, [this, id] { Q_EMIT demoRequested(id); });
  }
  demo->setMenu(demos);
  for (QPushButton* button : {fresh, open, demo}) line->addWidget(button);
  layout->addLayout(line);
  layout->addWidget(cabinet_, 1);
  connect(fresh, &QPushButton::clicked, this, &Welcome::newRequested);
  connect(open, &QPushButton::clicked, this, &Welcome::openRequested);
  return page;
}

QWidget* Welcome::firstTime() {
  auto* page = new QWidget(this);
  auto* layout = new QVBoxLayout(page);
  layout->setContentsMargins(60, 60, 60, 60);
  layout->setSpacing(14);
  auto* title = new QLabel(tr("One variable at a time, in percent, and how sure"), this);
  title->setFont(textFont(TextSize::Huge, true));
  auto* words =
      new QLabel(tr("Name a platform setting and its levels, and the workloads to test it with. Iron Lever runs them "
                    "again and again, files every pass, and says by how many percent the setting moved them, "
                    "how sure that is, and what could make it wrong."),
                 this);
  words->setWordWrap(true);
  words->setMaximumWidth(720);
  words->setFont(textFont(TextSize::Large));
  layout->addWidget(title);
  layout->addWidget(words);
  layout->addSpacing(20);
  const auto add = [&](const QString& text, const char* name, const QString& explanation, void (Welcome::*signal)()) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(QLatin1String(name));
    button->setFixedWidth(260);
    auto* hint = new QLabel(explanation, this);
    hint->setProperty("soft", true);
    hint->setWordWrap(true);
    layout->addWidget(button);
    layout->addWidget(hint);
    layout->addSpacing(8);
    connect(button, &QPushButton::clicked, this, signal);
  };
  add(tr("New study"), "welcomeNewButton",
      tr("Asked step by step; one file holds the question, every pass and every decision."), &Welcome::newRequested);
  add(tr("Open a study …"), "welcomeOpenButton", tr("Goes on where it stood, also after a crash or a power cut."),
      &Welcome::openRequested);
  addDemos(layout);
  recent_ = new QVBoxLayout;
  recent_->setSpacing(2);
  layout->addLayout(recent_);
  layout->addStretch(1);
  return page;
}

void Welcome::addDemos(QVBoxLayout* layout) {
  auto* title = new QLabel(tr("Or watch one: on a simulated planetarium computer, measured in a few seconds"), this);
  title->setFont(textFont(TextSize::Normal, true));
  layout->addWidget(title);
  auto* grid = new QGridLayout;
  grid->setHorizontalSpacing(14);
  grid->setVerticalSpacing(4);
  grid->setColumnStretch(1, 1);
  for (const session::DemoStudy& one : session::demoStudies()) {
    const QString id = QString::fromUtf8(one.id);
    auto* button = new QPushButton(tr("Demo: %1").arg(tr(one.title)), this);
    button->setObjectName(grid->count() == 0 ? QStringLiteral("welcomeDemoButton") : id + QStringLiteral("Button"));
    auto* about = new QLabel(tr(one.about), this);
    about->setProperty("soft", true);
    const int row = grid->rowCount();
    grid->addWidget(button, row, 0);
    grid->addWidget(about, row, 1);
    connect(button, &QPushButton::clicked, this, [this, id] { Q_EMIT demoRequested(id); });
  }
  layout->addLayout(grid);
  layout->addSpacing(8);
}

void Welcome::showRecent(const QStringList& paths) {
  while (QLayoutItem* item = recent_->takeAt(0)) {
    item->widget()->deleteLater();
    delete item;
  }
  if (paths.isEmpty()) return;
  auto* title = new QLabel(tr("Recently opened"), this);
  title->setFont(textFont(TextSize::Normal, true));
  recent_->addWidget(title);
  constexpr int kMost = 5;
  for (const QString& path : paths.mid(0, kMost)) {
    auto* button = new QPushButton(recentTitle(path), this);
    button->setFlat(true);
    button->setObjectName(QStringLiteral("recentStudyButton"));
    connect(button, &QPushButton::clicked, this, [this, path] { Q_EMIT studyRequested(path); });
    recent_->addWidget(button, 0, Qt::AlignLeft);
  }
}

}  // namespace app
