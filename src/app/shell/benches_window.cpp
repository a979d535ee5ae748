#include "app/shell/benches_window.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "app/findings/svg_picture.h"
#include "app/model/bench_history.h"
#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "report/noise_svg.h"

namespace app {

static constexpr int kNoiseHeight = 190;

BenchesWindow::BenchesWindow(const StudyModel& study, QWidget* parent)
    : QDialog(parent),
      study_(study),
      asked_(new QLabel(this)),
      same_(new QPushButton(tr("It is the same"), this)),
      another_(new QPushButton(tr("It is another one"), this)),
      benches_(new QListWidget(this)),
      history_(new QLabel(this)),
      noise_(new SvgPicture(this)) {
  setObjectName(QStringLiteral("benchesWindow"));
  setWindowTitle(tr("Benches"));
  resize(860, 520);
  benches_->setObjectName(QStringLiteral("benchesList"));
  benches_->setAccessibleName(tr("Benches"));
  benches_->setFixedWidth(240);
  history_->setObjectName(QStringLiteral("benchHistoryLabel"));
  history_->setWordWrap(true);
  history_->setTextFormat(Qt::RichText);
  history_->setAlignment(Qt::AlignTop);
  history_->setContentsMargins(16, 8, 16, 8);
  history_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  auto* scroll = new QScrollArea(this);
  scroll->setWidget(history_);
  scroll->setWidgetResizable(true);
  auto* layout = new QHBoxLayout(this);
  layout->addWidget(benches_);
  noise_->setObjectName(QStringLiteral("benchNoisePicture"));
  noise_->setAccessibleName(tr("noise of this bench over time"));
  noise_->setFixedHeight(kNoiseHeight);
  asked_->setObjectName(QStringLiteral("benchQuestion"));
  asked_->setWordWrap(true);
  same_->setObjectName(QStringLiteral("benchSameButton"));
  another_->setObjectName(QStringLiteral("benchAnotherButton"));
  auto* answers = new QHBoxLayout;
  answers->addWidget(same_);
  answers->addWidget(another_);
  answers->addStretch(1);
  auto* right = new QVBoxLayout;
  right->addWidget(asked_);
  right->addLayout(answers);
  right->addWidget(noise_);
  right->addWidget(scroll, 1);
  layout->addLayout(right, 1);
  connect(same_, &QPushButton::clicked, this, [this] { answerQuestion(true); });
  connect(another_, &QPushButton::clicked, this, [this] { answerQuestion(false); });
  connect(benches_, &QListWidget::currentRowChanged, this, &BenchesWindow::showChosen);
  connect(&study, &StudyModel::studyOpened, this, &BenchesWindow::refresh);
  refresh();
}

void BenchesWindow::refresh() {
  const auto benches = study_.benches().benches();
  const QString before = benches_->currentItem() ? benches_->currentItem()->text() : QString();
  {
    const QSignalBlocker blocker(benches_);
    benches_->clear();
    if (benches)
      for (const store::BenchRegister::Bench& bench : *benches) benches_->addItem(toQt(bench.name));
    const auto same = benches_->findItems(before, Qt::MatchExactly);
    benches_->setCurrentItem(same.isEmpty() ? benches_->item(0) : same.front());
  }
  showQuestion();
  if (!benches) return history_->setText(toQt(benches.error().sentence()).toHtmlEscaped());
  showChosen();
}

// Facts tell models, never which piece it is: it is asked, one thing at a time.
void BenchesWindow::showQuestion() {
  const auto questions = session::benchQuestions(study_.files());
  question_ = questions && !questions->empty() ? std::optional(questions->front()) : std::nullopt;
  asked_->setText(question_ ? toQt(question_->text) : QString());
  for (QWidget* one : std::initializer_list<QWidget*>{asked_, same_, another_}) one->setVisible(question_.has_value());
}

void BenchesWindow::answerQuestion(bool is_the_same) {
  if (!question_) return;
  if (auto done = session::answer(study_.files(), *question_, is_the_same); !done)
    return asked_->setText(toQt(done.error().sentence()));
  refresh();
}

void BenchesWindow::showBench(const QString& name) {
  const auto same = benches_->findItems(name, Qt::MatchExactly);
  if (!same.isEmpty()) benches_->setCurrentItem(same.front());
}

// By whatever measured it: null studies and pilots.
void BenchesWindow::showNoise(const std::string& bench) {
  std::vector<report::NoiseSeen> seen;
  if (const auto all = study_.benches().noiseHistory(bench))
    for (const store::BenchRegister::Noise& one : *all) {
      const core::NullStudy& noise = one.measured.noise;
      seen.push_back(
          {one.at_ms, noise.pass_sd, noise.visits >= 2 ? std::optional(noise.flip_sd) : std::optional<double>()});
    }
  std::vector<std::int64_t> changed;
  if (const auto entries = study_.benches().entries(bench))
    for (std::size_t i = 1; i < entries->size(); ++i) changed.push_back((*entries)[i].capture.taken_ms);
  noise_->setVisible(!seen.empty());
  noise_->setMaker([seen, changed](const QSize& size) {
    return report::noiseSvg(seen, changed, currentPalette(), size.width(), size.height());
  });
}

void BenchesWindow::showChosen() {
  noise_->hide();
  if (!benches_->currentItem())
    return history_->setText(tr(
        "No bench is known yet. Each visit of a study captures its bench; from then on this shows what the bench was "
        "when, and what changed since."));
  showNoise(benches_->currentItem()->text().toStdString());
  const auto history = benchHistory(study_.benches(), benches_->currentItem()->text().toStdString());
  if (!history) return history_->setText(toQt(history.error().sentence()).toHtmlEscaped());
  QString html;
  for (const BenchStretch& stretch : *history) {
    html += QStringLiteral("<p style='margin:12px 0 2px 0'><b>%1</b> <span style='color:%2'>%3</span></p>")
                .arg(stretch.when, theme().soft_ink.name(), stretch.what);
    for (const QString& change : stretch.changes)
      html += QStringLiteral("<p style='margin:0'>%1</p>").arg(change.toHtmlEscaped());
    if (stretch.changes.isEmpty())
      html += QStringLiteral("<p style='margin:0; color:%1'>%2</p>").arg(theme().soft_ink.name(), tr("first seen so"));
  }
  history_->setText(html);
}

}  // namespace app
