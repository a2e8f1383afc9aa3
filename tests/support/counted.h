// A job done by hand in the real window, its actions counted.
#pragma once

#include <QComboBox>
#include <QFile>
#include <QPushButton>
#include <QTest>

#include "sheets/source_gallery.h"
#include "support/hands.h"
#include "widgets/number_field.h"

namespace oa::app::test {

inline const QString kMedia = QStringLiteral(OA_SOURCE_DIR "/demo-data/media/");

// The user's hands, counting: a drop, a click, a choice in a list, a number typed, a key.
class Hands {
 public:
  explicit Hands(Window& window) : w_(window) {}
  [[nodiscard]] int actions() const { return actions_; }

  void drop(const QStringList& names) {
    ++actions_;
    const std::size_t before = w_.document().scene().layers.size();
    const bool sound = names.front().endsWith(".ogg");
    QStringList paths;
    for (const QString& name : names) paths << (name.startsWith('/') ? name : kMedia + name);
    dropFiles(w_, &w_, paths);
    if (sound)
      QTRY_VERIFY(w_.document().scene().sound.there());
    else
      QTRY_COMPARE(w_.document().scene().layers.size(), before + static_cast<std::size_t>(names.size()));
  }
  void key(Qt::Key key, Qt::KeyboardModifiers modifiers) {
    ++actions_;
    QTest::keyClick(&w_, key, modifiers);
  }
  void choose(const char* step, const char* param, const QString& entry) {
    ++actions_;
    auto* box = paramRow(w_, step, param)->findChild<QComboBox*>();
    QVERIFY(box && box->isVisible());
    const int index = box->findText(entry, Qt::MatchFixedString);
    QVERIFY2(index >= 0, qPrintable(entry));
    box->setFocus();
    for (int i = 0; i < box->count() && box->currentIndex() != index; ++i)
      QTest::keyClick(box, box->currentIndex() < index ? Qt::Key_Down : Qt::Key_Up);
    QCOMPARE(box->currentIndex(), index);
  }
  void type(const char* step, const char* param, const QString& text, int part = 0) {
    ++actions_;
    const auto fields = paramRow(w_, step, param)->findChildren<NumberField*>();
    QVERIFY(part < fields.size() && fields[part]->isVisible());
    typeInto(fields[part], text);
  }
  void typeInto(QWidget* field, const QString& text, bool counts = false) {
    actions_ += counts;
    app::test::typeInto(field, text);
  }
  void click(QWidget* widget, QPoint at = {}) {
    ++actions_;
    QVERIFY(widget && widget->isVisible() && widget->isEnabled());
    QTest::mouseClick(widget, Qt::LeftButton, Qt::NoModifier, at);
  }
  void count() { ++actions_; }
  /// The + of the pile, and a card of what opens.
  void addLayer(const QString& name) {
    click(child<QWidget>(&w_, "addLayer"));
    auto* gallery = w_.findChild<SourceGallery*>();
    QTRY_VERIFY(gallery && gallery->isVisible());
    for (int i = 0; i < gallery->count(); ++i)
      if (gallery->items()[static_cast<std::size_t>(i)].name == name) {
        const std::size_t before = w_.document().scene().layers.size();
        click(gallery->card(i));
        QTRY_COMPARE(w_.document().scene().layers.size(), before + 1);
        return;
      }
    QFAIL(qPrintable(name));
  }

 private:
  Window& w_;
  int actions_ = 0;
};

// What was done is told beside what was aimed at, is no more than that, and stands so in the sheet of jobs.
inline void told(const char* job, const Hands& hands, int aim) {
  qInfo("%s: %d actions, aim %d", job, hands.actions(), aim);
  QVERIFY2(hands.actions() <= aim, job);
  QFile sheet(QStringLiteral(OA_SOURCE_DIR "/docs/jobs.md"));
  QVERIFY(sheet.open(QIODevice::ReadOnly));
  const QString line = QStringLiteral("| %1 | %2 | %3 |").arg(QLatin1String(job)).arg(hands.actions()).arg(aim);
  QVERIFY2(QString::fromUtf8(sheet.readAll()).contains(QLatin1Char('\n') + line),
           qPrintable(QStringLiteral("docs/jobs.md should say: ") + line));
}

}  // namespace oa::app::test
