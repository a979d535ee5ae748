#include "app/bench/bench_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "app/bench/path_drawing.h"
#include "app/shell/theme.h"

namespace app {
namespace {

QLabel* richLabel(QWidget* parent, const char* name) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  label->setTextFormat(Qt::RichText);
  label->setAlignment(Qt::AlignTop);
  label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  return label;
}

}  // namespace

QHBoxLayout* BenchPage::buildChoice() {
  auto* choice = new QHBoxLayout;
  auto* title = new QLabel(tr("The bench at"), content_);
  title->setFont(textFont(TextSize::Large, true));
  left_ = new QComboBox(content_);
  left_->setObjectName(QStringLiteral("leftVisitBox"));
  left_->setAccessibleName(tr("One visit"));
  right_ = new QComboBox(content_);
  right_->setObjectName(QStringLiteral("rightVisitBox"));
  right_->setAccessibleName(tr("The other visit"));
  for (QComboBox* box : {left_, right_}) box->setMinimumWidth(170);
  choice->addWidget(title);
  choice->addWidget(left_);
  choice->addWidget(new QLabel(tr("and at"), content_));
  choice->addWidget(right_);
  choice->addStretch(1);
  auto* stated = new QPushButton(tr("What only you know …"), content_);
  stated->setObjectName(QStringLiteral("statedFactsButton"));
  stated->setToolTip(tr("Room temperature, cooler, cable, power supply, who lent a part (Ctrl+Shift+K)"));
  choice->addWidget(stated);
  connect(stated, &QPushButton::clicked, this, &BenchPage::statedFactsRequested);
  return choice;
}

void BenchPage::buildEmpty() {
  empty_ = new QWidget(this);
  auto* words = new QLabel(bench_.emptyText(), empty_);
  words->setObjectName(QStringLiteral("benchEmptyLabel"));
  words->setFont(textFont(TextSize::Large));
  words->setWordWrap(true);
  words->setAlignment(Qt::AlignTop);
  words->setMaximumWidth(760);
  auto* empty_column = new QVBoxLayout(empty_);
  empty_column->setContentsMargins(20, 30, 20, 20);
  empty_column->addWidget(words);
}

BenchPage::BenchPage(BenchViewModel& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName(QStringLiteral("benchPage"));
  content_ = new QWidget(this);
  auto* left = new QVBoxLayout;
  left->setContentsMargins(20, 16, 16, 12);
  left->setSpacing(10);
  QHBoxLayout* choice = buildChoice();
  summary_ = new QLabel(content_);
  summary_->setObjectName(QStringLiteral("benchSummary"));
  summary_->setFont(textFont(TextSize::Large));
  summary_->setWordWrap(true);
  drawing_ = new PathDrawing(content_);
  differences_ = richLabel(content_, "differencesLabel");
  auto* scroll = new QScrollArea(content_);
  scroll->setObjectName(QStringLiteral("differencesScroll"));
  scroll->setWidget(differences_);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  left->addLayout(choice);
  since_ = new QLabel(content_);
  since_->setObjectName(QStringLiteral("sinceLastTimeLabel"));
  since_->setProperty("soft", true);
  since_->setWordWrap(true);
  left->addWidget(summary_);
  left->addWidget(since_);
  left->addWidget(drawing_);
  left->addWidget(scroll, 1);

  proof_ = richLabel(content_, "proofLabel");
  proof_->setContentsMargins(14, 16, 12, 12);
  side_ = new QScrollArea(content_);
  side_->setObjectName(QStringLiteral("proofPanel"));
  side_->setWidget(proof_);
  side_->setWidgetResizable(true);
  side_->setFixedWidth(340);
  side_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* columns = new QHBoxLayout(content_);
  columns->setContentsMargins(0, 0, 0, 0);
  columns->setSpacing(0);
  columns->addLayout(left, 1);
  columns->addWidget(side_);

  buildEmpty();
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(content_, 1);
  layout->addWidget(empty_, 1);

  connect(&bench_, &BenchViewModel::changed, this, &BenchPage::refresh);
  const auto choose = [this] { bench_.choose(left_->currentData().toLongLong(), right_->currentData().toLongLong()); };
  connect(left_, &QComboBox::activated, this, choose);
  connect(right_, &QComboBox::activated, this, choose);
  restyle();
}

void BenchPage::restyle() {
  side_->setStyleSheet(QStringLiteral("#proofPanel { background: %1; border: none; border-left: 1px solid %2; } "
                                      "#proofPanel > QWidget > QWidget { background: %1; }")
                           .arg(theme().sheet.name(), theme().line.name()));
  refresh();
}

void BenchPage::fillChoices() {
  for (QComboBox* box : {left_, right_}) {
    const QSignalBlocker blocker(box);
    box->clear();
    for (const BenchViewModel::Choice& choice : bench_.choices())
      box->addItem(choice.text, QVariant::fromValue(static_cast<qlonglong>(choice.visit_id)));
    box->setCurrentIndex(
        box->findData(QVariant::fromValue(static_cast<qlonglong>(box == left_ ? bench_.left() : bench_.right()))));
  }
}

QString BenchPage::differencesHtml() const {
  QString html;
  for (const DifferenceGroup& group : bench_.groups()) {
    const bool is_alarm = group.is_accident && !group.sentences.isEmpty();
    html += QStringLiteral("<p style='margin:8px 0 2px 0; font-weight:bold; color:%1'>%2</p>")
                .arg((is_alarm ? theme().stop : theme().ink).name(), group.title.toHtmlEscaped());
    if (group.sentences.isEmpty())
      html += QStringLiteral("<p style='margin:0; color:%1'>%2</p>")
                  .arg(theme().soft_ink.name(), group.empty.toHtmlEscaped());
    for (const QString& sentence : group.sentences)
      html += QStringLiteral("<p style='margin:0'>%1</p>").arg(sentence.toHtmlEscaped());
  }
  return html;
}

QString BenchPage::proofHtml() const {
  QString html = QStringLiteral("<p style='font-size:13pt; font-weight:bold; margin:0'>%1</p>").arg(tr("Did it move?"));
  bool has_band = false;
  for (const ProofRow& row : bench_.proof()) {
    has_band = has_band || !row.expected.isEmpty();
    html +=
        QStringLiteral("<p style='margin:12px 0 2px 0; font-weight:bold'>%1</p><table cellspacing='0' cellpadding='2'>")
            .arg(row.level.toHtmlEscaped());
    for (const auto& [name, text] :
         {std::pair{tr("must read"), row.called.toHtmlEscaped()}, std::pair{tr("was read"), row.read.toHtmlEscaped()},
          std::pair{tr("measurement should land at"), row.expected.toHtmlEscaped()}})
      if (!text.isEmpty())
        html += QStringLiteral("<tr><td style='color:%1; padding-right:12px'>%2</td><td>%3</td></tr>")
                    .arg(theme().soft_ink.name(), name, text);
    html += QStringLiteral("</table>");
    for (const QString& text : row.measured)
      html += QStringLiteral("<p style='margin:0 0 2px 2px'>%1</p>").arg(text.toHtmlEscaped());
  }
  for (const QString& step : bench_.measuredSteps()) html += QStringLiteral("<p>%1</p>").arg(step.toHtmlEscaped());
  if (has_band)
    html += QStringLiteral("<p style='color:%1'>%2</p>")
                .arg(theme().soft_ink.name(),
                     tr("Expected: where a measurement plausibly lands, in GB/s. It is a band, never a pass mark."));
  if (const QStringList stated = bench_.stated(); !stated.isEmpty()) {
    html += QStringLiteral("<p style='margin:12px 0 2px 0; font-weight:bold'>%1</p>").arg(tr("Stated by people"));
    for (const QString& line : stated) html += QStringLiteral("<p style='margin:0'>%1</p>").arg(line.toHtmlEscaped());
  }
  if (const QStringList cautions = bench_.cautions(); !cautions.isEmpty()) {
    html += QStringLiteral("<p style='margin:16px 0 4px 0; font-weight:bold; color:%1'>%2</p>")
                .arg(theme().caution.name(), tr("Before you change it"));
    for (const QString& caution : cautions)
      html += QStringLiteral("<p style='margin:0 0 6px 0'>%1</p>").arg(caution.toHtmlEscaped());
  }
  return html;
}

void BenchPage::refresh() {
  const bool has_captures = bench_.hasCaptures();
  content_->setVisible(has_captures);
  empty_->setVisible(!has_captures);
  if (!has_captures) return;
  fillChoices();
  summary_->setText(bench_.summary());
  since_->setText(bench_.sinceLastTime());
  since_->setVisible(!since_->text().isEmpty());
  drawing_->show(bench_.paths());
  differences_->setText(differencesHtml());
  proof_->setText(proofHtml());
}

}  // namespace app
