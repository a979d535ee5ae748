#include "app/shell/observation_dialog.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/shell/prompts.h"
#include "app/shell/usable.h"
#include "session/study/visit_pictures.h"

namespace app {

ObservationDialog::ObservationDialog(Prompts& prompts, QWidget* parent)
    : QDialog(parent),
      prompts_(prompts),
      text_(new QPlainTextEdit(this)),
      chosen_(new QLabel(tr("no picture"), this)),
      keep_(new QPushButton(tr("Keep"), this)) {
  setObjectName(QStringLiteral("observationDialog"));
  setWindowTitle(tr("What was noticed"));
  auto* words = new QLabel(
      tr("Something beside what is measured: it stands in the logbook, and in the report under \"What else was "
         "noticed\"."),
      this);
  words->setWordWrap(true);
  text_->setObjectName(QStringLiteral("observationEdit"));
  text_->setAccessibleName(tr("what was noticed"));
  text_->setTabChangesFocus(true);
  text_->setPlaceholderText(tr("the front port does not charge"));
  chosen_->setProperty("soft", true);
  auto* picture = new QPushButton(tr("Picture …"), this);
  chosen_->setWordWrap(true);
  picture->setObjectName(QStringLiteral("observationPictureButton"));
  keep_->setObjectName(QStringLiteral("keepObservationButton"));
  auto* cancel = new QPushButton(tr("Cancel"), this);
  auto* row = new QHBoxLayout;
  row->addWidget(picture);
  row->addWidget(chosen_, 1);
  row->addWidget(keep_);
  row->addWidget(cancel);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(10);
  column->addWidget(words);
  column->addWidget(text_, 1);
  column->addLayout(row);
  const auto tellUsable = [this] { setUsable(*keep_, text().isEmpty() ? tr("Write what was noticed") : QString()); };
  connect(text_, &QPlainTextEdit::textChanged, this, tellUsable);
  connect(picture, &QPushButton::clicked, this, &ObservationDialog::choosePicture);
  connect(keep_, &QPushButton::clicked, this, &QDialog::accept);
  connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
  tellUsable();
  resize(520, 260);
}

QString ObservationDialog::text() const { return text_->toPlainText().trimmed(); }

void ObservationDialog::choosePicture() {
  const auto path = prompts_.picturePath(this, tr("Picture of what was noticed"));
  if (!path) return;
  const auto read = session::readPicture(path->toStdString());
  picture_ = read ? *path : QString();
  if (!read) return chosen_->setText(toQt(read.error().sentence()));
  chosen_->setText(toQt(QFileInfo(picture_).fileName().toStdString()));
}

}  // namespace app
