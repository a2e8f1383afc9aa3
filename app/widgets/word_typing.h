// Words typed straight into the picture: a caret between their letters.
#pragma once

#include <QPointF>
#include <QString>

#include "base/affine.h"
#include "model/document.h"

class QKeyEvent;
class QPainter;

namespace oa::app {

class WordTyping {
 public:
  explicit WordTyping(Document& document) : document_(document) {}
  /// From pixels of the layer's plane to those of the widget, and the frame that is shown.
  void setView(const Affine& toWidget, int frame) {
    toWidget_ = toWidget;
    frame_ = frame;
  }
  /// Whether words of the current layer are typed in the picture.
  [[nodiscard]] bool shown() const { return document_.editsInPicture(ParamType::Text); }

  /// All of the words are chosen: what is typed next takes their place.
  void begin(const ParamAddress& words);
  void end();
  /// Sets the caret to the place between letters that is nearest.
  void press(QPointF at);
  /// True where the key means something to words: others are the window's.
  [[nodiscard]] static bool takes(const QKeyEvent& key);
  void press(const QKeyEvent& key);
  /// Puts it in at the caret, in place of what is chosen.
  void insert(const QString& typed);
  void paint(QPainter& p) const;

  /// The ends of the caret in the widget.
  [[nodiscard]] std::pair<QPointF, QPointF> caret() const;

 private:
  [[nodiscard]] QString words() const;
  void give(const QString& words);
  void step(int way, bool word);
  void line(int way);
  template <class Ask>
  auto drawing(const Ask& ask) const;

  Document& document_;
  Affine toWidget_;
  int frame_ = 0;
  qsizetype at_ = 0;  // before which letter, in QString's count
  bool all_ = false;  // all words are chosen
};

}  // namespace oa::app
