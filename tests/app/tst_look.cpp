// What every screen owes its users: names for screen readers, reach by keyboard, contrast, room.
#include <QAbstractButton>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QLineEdit>
#include <QScrollBar>
#include <QTest>
#include <cmath>

#include "image/colour.h"
#include "sheets/export_sheet.h"
#include "support/hands.h"
#include "widgets/theme.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;

namespace {

// WCAG 2.2, relative luminance and contrast ratio.
double luminance(const QColor& c) {
  return 0.2126 * srgbDecode(c.redF()) + 0.7152 * srgbDecode(c.greenF()) + 0.0722 * srgbDecode(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
  const double x = luminance(a);
  const double y = luminance(b);
  return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

// Controls of a window that somebody without a mouse or without sight must be able to use.
QStringList unnamed(const QWidget& window) {
  QStringList found;
  for (const auto* widget : window.findChildren<QWidget*>()) {
    if (!widget->isVisibleTo(&window) || widget->focusPolicy() == Qt::NoFocus || qobject_cast<const QScrollBar*>(widget)) continue;
    const auto* button = qobject_cast<const QAbstractButton*>(widget);
    const bool named = !widget->accessibleName().isEmpty() || (button && !button->text().isEmpty());
    const bool inner = widget->parentWidget() && qobject_cast<const QComboBox*>(widget->parentWidget());
    const QString type = QString::fromLatin1(widget->metaObject()->className());
    if (!named && !inner && !type.contains(QStringLiteral("Scroll")) && !type.contains(QStringLiteral("spinbox"), Qt::CaseInsensitive) &&
        widget->objectName() != QStringLiteral("qt_spinbox_lineedit"))
      found << type + QLatin1Char(' ') + widget->objectName();
  }
  return found;
}

}  // namespace

class TestLook : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everyControlHasAName();
  void everythingIsReachedByTab();
  void textHasContrast_data();
  void textHasContrast();
  void nothingIsCutOff_data();
  void nothingIsCutOff();
  void theProbeSeesABusyWindow();
};

void TestLook::everyControlHasAName() {
  Bench bench;
  Window& w = bench.window();
  QVERIFY2(unnamed(w).isEmpty(), qPrintable(unnamed(w).join(QStringLiteral(", "))));
  w.showExport();
  QCOMPARE(unnamed(w).join(QStringLiteral(", ")), QString());
  w.showFrame();
  QCOMPARE(unnamed(w).join(QStringLiteral(", ")), QString());
  w.showCheck();
  QCOMPARE(unnamed(w).join(QStringLiteral(", ")), QString());
  w.showGallery(true);
  QCOMPARE(unnamed(w).join(QStringLiteral(", ")), QString());
  // The search itself finds a planted one.
  auto* planted = new QLineEdit(&w);
  planted->show();
  QCOMPARE(unnamed(w).size(), 1);
}

void TestLook::everythingIsReachedByTab() {
  Bench bench;
  Window& w = bench.window();
  w.activateWindow();
  w.view().setFocus();
  QSet<QWidget*> reached;
  for (int i = 0; i < 300; ++i) {
    QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : &w, Qt::Key_Tab);
    if (QWidget* now = QApplication::focusWidget()) reached << now;
  }
  int missed = 0;
  for (auto* button : w.findChildren<QAbstractButton*>())
    if (button->isVisibleTo(&w) && button->isEnabled() && (button->focusPolicy() & Qt::TabFocus) && !reached.contains(button)) {
      ++missed;
      qWarning() << "not reached:" << button->metaObject()->className() << button->accessibleName() << button->text();
    }
  QCOMPARE(missed, 0);
}

void TestLook::textHasContrast_data() {
  QTest::addColumn<QString>("scheme");
  QTest::newRow("light") << "light";
  QTest::newRow("dark") << "dark";
}

void TestLook::textHasContrast() {
  QFETCH(QString, scheme);
  Theme::apply(*qApp, scheme);
  const Theme& t = Theme::now();
  for (const QColor& ground : {t.paper, t.panel, t.card}) {
    for (const auto& [name, ink] : {std::pair{"ink", t.ink},
                                    {"muted", t.muted},
                                    {"persimmon", t.persimmon},
                                    {"lagoon", t.lagoon},
                                    {"moss", t.moss},
                                    {"ochre", t.ochre}})
      QVERIFY2(contrast(ink, ground) >= 4.5,
               qPrintable(QStringLiteral("%1 on %2: %3").arg(QLatin1String(name), ground.name()).arg(contrast(ink, ground), 0, 'f', 2)));
  }
  QVERIFY(contrast(t.onAccent, t.persimmon) >= 4.5);
  QVERIFY(contrast(Qt::white, t.surround) >= 4.5);
  Theme::apply(*qApp, QStringLiteral("light"));
}

void TestLook::nothingIsCutOff_data() {
  QTest::addColumn<QSize>("size");
  QTest::newRow("1280 x 800") << QSize(1280, 800);
  QTest::newRow("1024 x 700") << QSize(1024, 700);
}

void TestLook::nothingIsCutOff() {
  QFETCH(QSize, size);
  Bench bench;
  Window& w = bench.window();
  w.resize(size);
  QTRY_COMPARE(w.size(), size);
  for (const auto open : {&Window::showRecipe, &Window::showExport, &Window::showCheck, &Window::showFrame}) {
    (w.*open)();
    oa::app::test::turn();
    for (auto* button : w.findChildren<QPushButton*>()) {
      if (!button->isVisible() || button->text().isEmpty()) continue;
      QVERIFY2(button->width() >= button->fontMetrics().horizontalAdvance(button->text()), qPrintable(button->text()));
      const QRect inWindow(button->mapTo(&w, QPoint(0, 0)), button->size());
      QVERIFY2(w.rect().contains(inWindow), qPrintable(button->text()));
    }
    for (auto* box : w.findChildren<QComboBox*>()) {
      // The text, the arrow and the padding: what is chosen can be read whole.
      if (box->isVisible())
        QVERIFY2(box->width() >= box->fontMetrics().horizontalAdvance(box->currentText()) + 34, qPrintable(box->currentText()));
    }
    for (auto* label : w.findChildren<QLabel*>()) {
      if (!label->isVisible() || label->wordWrap() || label->text().isEmpty() || label->objectName() == QStringLiteral("muted")) continue;
      QVERIFY2(label->width() + 1 >= label->fontMetrics().horizontalAdvance(label->text()), qPrintable(label->text()));
    }
  }
}

void TestLook::theProbeSeesABusyWindow() {
  // What bench/ and the closing note measure with: it must see a window that is busy.
  oa::app::test::BusyProbe probe;
  oa::app::test::turn();
  probe.restart();
  QTest::qSleep(60);
  QTRY_VERIFY(probe.longest() >= 55);
}

QTEST_MAIN(TestLook)
#include "tst_look.moc"
