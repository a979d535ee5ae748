#include "app/shell/welcome.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/recent_studies.h"
#include "app/shell/theme.h"

namespace app {

Welcome::Welcome(QWidget* parent) : QWidget(parent) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(60, 60, 60, 60);
  layout->setSpacing(14);
  auto* title = new QLabel(tr("One variable, two levels, one percentage"), this);
  title->setFont(textFont(TextSize::Huge, true));
  auto* words = new QLabel(tr("Name a platform setting and its two levels, and the workloads to test it with. Iron "
                              "Lever runs them again and "
                              "again, files every pass, and says by how many percent the setting moved them, how sure "
                              "that is, and what could make it wrong."),
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
  add(tr("Open the demo"), "welcomeDemoButton",
      tr("Memory speed on a simulated planetarium computer: seven cases, measured in a few seconds while you watch."),
      &Welcome::demoRequested);
  add(tr("New study"), "welcomeNewButton",
      tr("Asked step by step; one file holds the question, every pass and every decision."), &Welcome::newRequested);
  add(tr("Open a study …"), "welcomeOpenButton", tr("Goes on where it stood, also after a crash or a power cut."),
      &Welcome::openRequested);
  recent_ = new QVBoxLayout;
  recent_->setSpacing(2);
  layout->addLayout(recent_);
  layout->addStretch(1);
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
