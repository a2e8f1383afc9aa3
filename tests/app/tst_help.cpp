// Help on what has the focus, all keys, and the first steps.
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTest>
#include <QTextBlock>
#include <QTextBrowser>
#include <QToolButton>
#include <set>

#include "help/help_window.h"
#include "model/first_steps.h"
#include "loop/formula.h"
#include "sheets/export_sheet.h"
#include "sheets/look_gallery.h"
#include "sheets/sheet.h"
#include "sheets/source_gallery.h"
#include "support/hands.h"
#include "widgets/curve_canvas.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/help_mark.h"
#include "widgets/motion_pill.h"
#include "widgets/param_row.h"
#include "widgets/theme.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

struct Open {
  Open() { bench.activate(); }
  HelpWindow* helpOn(QWidget* widget) {
    w.activateWindow();
    widget->setFocus();
    QTest::keyClick(widget, Qt::Key_F1);
    auto* help = w.findChild<HelpWindow*>();
    return help && help->isVisible() ? help : nullptr;
  }
  Bench bench{"sea-fog.overagain"};
  Window& w = bench.window();
};

}  // namespace

class TestHelp : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everyStepAndSheetHasItsPage();
  void f1TellsOfWhatHasTheFocus();
  void pagesAreSearched();
  void allKeysAreOnOnePage();
  void formulasAndLooksHavePages();
  void anotherSchemeColoursThePage();
  void theFirstStepsAreRecognised();
  void theFirstStepsMayBeLeft();
};

void TestHelp::everyStepAndSheetHasItsPage() {
  Open open;
  HelpWindow* help = open.helpOn(&open.w.view());
  QVERIFY(help);
  std::set<QString> ids;
  for (const HelpPage& page : help->pages()) {
    QVERIFY2(ids.insert(page.id).second, qPrintable(page.id));
    QVERIFY2(!page.title.isEmpty() && page.html.contains(page.title.toHtmlEscaped()), qPrintable(page.id));
    // A page says more than its title.
    QVERIFY2(page.html.count(QStringLiteral("<p>")) >= 1 || page.html.contains(QStringLiteral("<table")), qPrintable(page.id));
  }
  for (const StepSpec* spec : allSteps()) {
    const QString id = QStringLiteral("step/") + QString::fromUtf8(spec->id.data(), static_cast<qsizetype>(spec->id.size()));
    QVERIFY2(ids.count(id) == 1, qPrintable(id));
    // Every value of it is told of, with what it does.
    for (const HelpPage& page : help->pages())
      if (page.id == id)
        for (const ParamSpec& param : spec->params)
          QVERIFY2(page.html.contains(QString::fromUtf8(param.help.data(), static_cast<qsizetype>(param.help.size())).toHtmlEscaped()),
                   qPrintable(id));
  }
  for (const Sheet* sheet : open.w.findChildren<Sheet*>()) QVERIFY2(ids.count(helpPageOf(sheet)) == 1, qPrintable(sheet->objectName()));
}

void TestHelp::f1TellsOfWhatHasTheFocus() {
  Open open;
  auto* row = oa::app::test::paramRow(open.w, "noise", "roughness");
  HelpWindow* help = open.helpOn(row->findChild<ValueSlider*>());
  QVERIFY(help);
  QCOMPARE(help->shown(), QStringLiteral("step/noise"));
  QVERIFY(child<QTextBrowser>(help, "helpPage")->toPlainText().contains(QStringLiteral("Roughness")));
  // It stays open, and tells of something else when it is asked again.
  QCOMPARE(open.helpOn(&open.w.dial()), help);
  QCOMPARE(help->shown(), QStringLiteral("room/dial"));
  QVERIFY(open.helpOn(open.w.curve().canvas()));
  QCOMPARE(help->shown(), QStringLiteral("room/curve"));
  open.w.showExport();
  QVERIFY(open.helpOn(open.w.exportSheet().findChild<QLineEdit*>(QStringLiteral("target"))));
  QCOMPARE(help->shown(), QStringLiteral("sheet-export"));
  QTest::keyClick(help, Qt::Key_Escape);
  QVERIFY(!help->isVisible());
}

void TestHelp::pagesAreSearched() {
  Open open;
  HelpWindow* help = open.helpOn(&open.w.view());
  QVERIFY(help);
  auto* list = child<QListWidget>(help, "helpList");
  const auto shown = [&] {
    int count = 0;
    for (int i = 0; i < list->count(); ++i) count += !list->item(i)->isHidden() && list->item(i)->data(Qt::UserRole).isValid();
    return count;
  };
  const int all = shown();
  QTest::keyClicks(child<QLineEdit>(help, "helpSearch"), QStringLiteral("ripp"));
  QVERIFY(shown() > 0 && shown() < all / 4);
  QCOMPARE(help->shown(), QStringLiteral("step/ripple"));
  child<QLineEdit>(help, "helpSearch")->clear();
  QCOMPARE(shown(), all);
}

void TestHelp::allKeysAreOnOnePage() {
  Open open;
  HelpWindow* help = open.helpOn(&open.w.view());
  QVERIFY(help);
  help->showPage(QStringLiteral("keys"));
  const QString words = child<QTextBrowser>(help, "helpPage")->toPlainText();
  for (const Commands::Section& section : open.w.commands().sections())
    for (const QString& id : section.ids)
      if (id != QLatin1String("-") && !open.w.commands().command(id).keys.isEmpty())
        QVERIFY2(words.contains(open.w.commands().command(id).keys.first().toString(QKeySequence::NativeText)), qPrintable(id));
  // And the sheet of them opens by a key of its own.
  bool seen = false;
  QVERIFY(oa::app::test::whenShown<QDialog>([&] { QTest::keyClick(&open.w.view(), Qt::Key_F1, Qt::ShiftModifier); },
                                            [&](QDialog& dialog) {
                                              seen = dialog.objectName() == QLatin1String("shortcuts");
                                              dialog.reject();
                                            }));
  QVERIFY(seen);
}

void TestHelp::formulasAndLooksHavePages() {
  Open open;
  auto* pill = oa::app::test::paramRow(open.w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Formula")));
  open.bench.activate();
  HelpWindow* help = open.helpOn(child<QLineEdit>(&open.w, "formula"));
  QVERIFY(help);
  QCOMPARE(help->shown(), QStringLiteral("motion/formula"));
  const QString words = child<QTextBrowser>(help, "helpPage")->toPlainText();
  for (const Formula::Function& function : Formula::functions())
    QVERIFY(words.contains(QString::fromUtf8(function.name.data(), static_cast<qsizetype>(function.name.size()))));
  open.w.showLooks();
  open.bench.activate();
  QVERIFY(open.helpOn(open.w.lookGallery().card(0)));
  QCOMPARE(help->shown(), QStringLiteral("gallery/looks"));
  for (int i = 0; i < 24; ++i) QVERIFY(child<QTextBrowser>(help, "helpPage")->toPlainText().contains(open.w.lookGallery().card(i)->text()));
}

void TestHelp::anotherSchemeColoursThePage() {
  Open open;
  HelpWindow* help = open.helpOn(&open.w.view());
  QVERIFY(help);
  help->showPage(QStringLiteral("step/noise"));
  auto* page = child<QTextBrowser>(help, "helpPage");
  const auto colour = [&] { return page->document()->begin().begin().fragment().charFormat().foreground().color(); };
  const QColor light = colour();
  Theme::apply(*qApp, QStringLiteral("dark"));
  QTRY_VERIFY(colour() != light);
  QCOMPARE(colour(), Theme::now().ink);
  QCOMPARE(help->shown(), QStringLiteral("step/noise"));
  Theme::apply(*qApp, QStringLiteral("light"));
  QTRY_COMPARE(colour(), light);
}

void TestHelp::theFirstStepsAreRecognised() {
  Open open;
  Window& w = open.w;
  auto* panel = child<QFrame>(&w, "firstSteps");
  QVERIFY(panel && !panel->isVisible());
  w.beginFirstSteps();
  QVERIFY(panel->isVisible());
  const auto heading = [&] { return child<QLabel>(panel, "heading")->text(); };
  QCOMPARE(w.firstSteps().now(), 0);
  QCOMPARE(heading(), FirstSteps::title(0));
  QTest::keyClick(&w.view(), Qt::Key_Space);
  QCOMPARE(w.firstSteps().now(), 1);
  QTest::keyClick(&w.view(), Qt::Key_Space);
  // The third before the second: it counts, and the second is still asked for.
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Swing")));
  QVERIFY(w.firstSteps().done(2));
  QCOMPARE(w.firstSteps().now(), 1);
  QCOMPARE(heading(), FirstSteps::title(1));
  auto* slider = oa::app::test::paramRow(w, "noise", "roughness")->findChild<ValueSlider*>();
  oa::app::test::drag(slider, {slider->width() * 0.4, slider->height() / 2.0}, {slider->width() * 0.8, slider->height() / 2.0});
  QCOMPARE(w.firstSteps().now(), 3);
  // A copy is a layer more; so is one of the gallery.
  open.bench.activate();
  QTest::keyClick(&w.view(), Qt::Key_D, Qt::ControlModifier);
  QCOMPARE(w.firstSteps().now(), 4);
  QTest::keyClick(&w, Qt::Key_E, Qt::ControlModifier);
  QCOMPARE(w.firstSteps().now(), FirstSteps::kCount);
  QCOMPARE(heading(), FirstSteps::title(FirstSteps::kCount));
  QTest::mouseClick(child<QPushButton>(panel, "firstStepsLeave"), Qt::LeftButton);
  QVERIFY(!panel->isVisible());
}

void TestHelp::theFirstStepsMayBeLeft() {
  Open open;
  Window& w = open.w;
  w.beginFirstSteps();
  auto* panel = child<QFrame>(&w, "firstSteps");
  // All of it is to be seen, within the picture's part of the window.
  QVERIFY(w.view().rect().contains(panel->geometry()));
  for (const QLabel* label : panel->findChildren<QLabel*>()) QVERIFY(label->height() >= label->heightForWidth(label->width()));
  QTest::mouseClick(child<QPushButton>(panel, "firstStepsLeave"), Qt::LeftButton);
  QVERIFY(!panel->isVisible() && !w.firstSteps().running());
  // Nothing is recognised any more.
  QTest::keyClick(&w.view(), Qt::Key_Space);
  QVERIFY(!w.firstSteps().done(0));
}

QTEST_MAIN(TestHelp)
#include "tst_help.moc"
