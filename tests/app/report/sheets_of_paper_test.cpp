// A long page on paper: what stands where a sheet ends.
#include "app/report/sheets_of_paper.h"

#include <gtest/gtest.h>

#include <QAbstractTextDocumentLayout>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextTable>

#include "report/html.h"

namespace {

constexpr double kSheet = 500;

class SheetsOfPaper : public testing::Test {
 protected:
  /// So many lines, then a heading and a table of rows of several lines each.
  void lay(int lines_before, int rows) {
    report::Html page;
    for (int i = 0; i < lines_before; ++i) page.paragraph("A line of the page.");
    page.heading("Every case");
    page.raw("<table width=\"100%\">\n");
    page.row({"case", "verdict"}, "th");
    for (int row = 0; row < rows; ++row)
      page.row({"Ring pass, 4K dome", "improves, and that in so many words that they stand on more than one line here"},
               "td", 2);
    page.raw("</table>\n");
    document_.setPageSize({300, kSheet});
    document_.setHtml(QString::fromStdString(page.text()));
    app::breakBetweenSheets(document_);
  }
  [[nodiscard]] QRectF at(const QTextBlock& block) const {
    return document_.documentLayout()->blockBoundingRect(block);
  }
  static int sheetOf(double y) { return static_cast<int>(y / kSheet); }
  [[nodiscard]] QTextTable* table() const {
    for (QTextBlock block = document_.begin(); block.isValid(); block = block.next())
      if (auto* found = QTextCursor(block).currentTable()) return found;
    return nullptr;
  }
  [[nodiscard]] QTextBlock cell(int row, int column) const {
    return table()->cellAt(row, column).firstCursorPosition().block();
  }
  QTextDocument document_;
};

TEST_F(SheetsOfPaper, TearNoRowAndWriteTheHeadAgain) {
  lay(3, 60);
  ASSERT_NE(table(), nullptr);
  EXPECT_EQ(table()->format().headerRowCount(), 1);
  int last = 0;
  for (int row = 0; row < table()->rows(); ++row) {
    const double top = std::min(at(cell(row, 0)).top(), at(cell(row, 1)).top());
    const double bottom = std::max(at(cell(row, 0)).bottom(), at(cell(row, 1)).bottom());
    EXPECT_EQ(sheetOf(top), sheetOf(bottom - 1)) << "row " << row << " from " << top << " to " << bottom;
    if (sheetOf(top) != last) {
      EXPECT_GT(top - sheetOf(top) * kSheet, 10) << "the head stands above row " << row;
    }
    last = sheetOf(top);
  }
  EXPECT_GT(last, 3);
  EXPECT_EQ(document_.pageCount(), last + 1) << "no sheet is left empty";
}

TEST_F(SheetsOfPaper, LeaveNoHeadAloneAtTheFoot) {
  for (int lines = 0; lines < 40; ++lines) {
    lay(lines, 3);
    QTextBlock heading = document_.begin();
    while (heading.blockFormat().headingLevel() == 0) heading = heading.next();
    EXPECT_EQ(sheetOf(at(heading).top()), sheetOf(at(cell(1, 1)).bottom() - 1)) << lines << " lines before it";
  }
}

}  // namespace
