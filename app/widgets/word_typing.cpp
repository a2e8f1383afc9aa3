#include "widgets/word_typing.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLineF>
#include <QPainter>
#include <QTextBoundaryFinder>
#include <algorithm>

#include "params/param_json.h"
#include "scene/extent.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "words/word_drawing.h"

namespace oa::app {
namespace {

std::size_t bytesBefore(const QString& words, qsizetype at) { return static_cast<std::size_t>(words.left(at).toUtf8().size()); }

qsizetype lettersBefore(const QString& words, std::size_t bytes) {
  return QString::fromUtf8(words.toUtf8().left(static_cast<qsizetype>(bytes))).size();
}

}  // namespace

// What `ask` wants to know of the words as they stand now.
template <class Ask>
auto WordTyping::drawing(const Ask& ask) const {
  const ParamAddress& at = *document_.editedInPicture();
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(at.layer);
  const Moment now = heldMoment(momentWithin(plan, index, {frame_, document_.scene().frames}), document_.layer()->hold);
  PlaneView view;
  view.frameWidth = plan.at(index).frame.x;
  view.frameHeight = plan.at(index).frame.y;
  const StepContext context = contextOf(*document_.step(at.layer, at.step), now, view);
  return ask(WordDrawing(context));
}

QString WordTyping::words() const {
  return QString::fromStdString(std::get<oa::Text>(document_.shown(*document_.editedInPicture()).base).text);
}

void WordTyping::give(const QString& words) {
  const ParamAddress at = *document_.editedInPicture();
  const Value value = oa::Text{words.toStdString()};
  if (checkValue(document_.spec(at), value, {})) document_.setBase(at, value, true);
}

void WordTyping::begin(const ParamAddress& words) {
  document_.editInPicture(words);
  if (!shown()) return;
  at_ = this->words().size();
  all_ = true;
}

void WordTyping::end() {
  document_.endGesture();
  document_.editInPicture({});
}

void WordTyping::press(QPointF at) {
  const Point place = toWidget_.inverse()({at.x(), at.y()});
  all_ = false;
  at_ = lettersBefore(words(), drawing([&](const WordDrawing& drawn) { return drawn.byteNearest(place); }));
}

bool WordTyping::takes(const QKeyEvent& key) {
  switch (key.key()) {
    case Qt::Key_Escape:
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Backspace:
    case Qt::Key_Delete:
    case Qt::Key_Left:
    case Qt::Key_Right:
    case Qt::Key_Up:
    case Qt::Key_Down:
    case Qt::Key_Home:
    case Qt::Key_End:
      return true;
    default:
      break;
  }
  if (key.matches(QKeySequence::SelectAll) || key.matches(QKeySequence::Paste) || key.matches(QKeySequence::Copy)) return true;
  const bool command = (key.modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier)) != 0;
  return !command && !key.text().isEmpty() && key.text().front().isPrint();
}

void WordTyping::insert(const QString& typed) {
  QString now = words();
  // Word by word is taken back.
  if (typed.size() == 1 && typed.front().isSpace()) document_.endGesture();
  if (all_) now.clear(), at_ = 0;
  all_ = false;
  at_ = std::clamp<qsizetype>(at_, 0, now.size());
  give(now.left(at_) + typed + now.mid(at_));
  if (words() != now) at_ += typed.size();
}

// By what is one letter to the eye, or one word.
void WordTyping::step(int way, bool word) {
  const QString now = words();
  if (all_) at_ = way < 0 ? 0 : now.size();
  if (!all_) {
    QTextBoundaryFinder finder(word ? QTextBoundaryFinder::Word : QTextBoundaryFinder::Grapheme, now);
    finder.setPosition(at_);
    const qsizetype next = way < 0 ? finder.toPreviousBoundary() : finder.toNextBoundary();
    if (next >= 0) at_ = next;
  }
  all_ = false;
}

// To the line above or below.
void WordTyping::line(int way) {
  const auto [top, bottom] = caret();
  const QPointF over = top - bottom;
  press((top + bottom) / 2 - over * way);
}

void WordTyping::press(const QKeyEvent& key) {
  const QString now = words();
  at_ = std::clamp<qsizetype>(at_, 0, now.size());
  const bool word = key.modifiers() & Qt::ControlModifier;
  const int right = now.isRightToLeft() ? -1 : 1;
  if (key.matches(QKeySequence::SelectAll)) {
    all_ = true;
    return;
  }
  if (key.matches(QKeySequence::Paste)) return insert(QGuiApplication::clipboard()->text());
  if (key.matches(QKeySequence::Copy)) {
    if (all_) QGuiApplication::clipboard()->setText(now);
    return;
  }
  const qsizetype from = at_;
  switch (key.key()) {
    case Qt::Key_Escape:
      return end();
    case Qt::Key_Return:
    case Qt::Key_Enter:
      return insert(QStringLiteral("\n"));
    case Qt::Key_Left:
      return step(-right, word);
    case Qt::Key_Right:
      return step(right, word);
    case Qt::Key_Up:
      return line(-1);
    case Qt::Key_Down:
      return line(1);
    case Qt::Key_Home:
      all_ = false;
      at_ = now.lastIndexOf(QLatin1Char('\n'), at_ - 1 - now.size()) + 1;
      return;
    case Qt::Key_End: {
      all_ = false;
      const qsizetype end = now.indexOf(QLatin1Char('\n'), at_);
      at_ = end < 0 ? now.size() : end;
      return;
    }
    case Qt::Key_Backspace:
    case Qt::Key_Delete:
      if (all_) return insert({});
      step(key.key() == Qt::Key_Backspace ? -1 : 1, word);
      return at_ < from ? give(now.left(at_) + now.mid(from)) : (give(now.left(from) + now.mid(at_)), void(at_ = from));
    default:
      return insert(key.text());
  }
}

std::pair<QPointF, QPointF> WordTyping::caret() const {
  const auto ends = drawing([&](const WordDrawing& drawn) { return drawn.caretBefore(bytesBefore(words(), at_)); });
  const Point top = toWidget_(ends[0]);
  const Point bottom = toWidget_(ends[1]);
  return {{top.x, top.y}, {bottom.x, bottom.y}};
}

void WordTyping::paint(QPainter& p) const {
  const auto box = drawing([](const WordDrawing& drawn) { return drawn.box(); });
  QPolygonF frame;
  for (const Point corner : {Point{box[0], box[1]}, {box[2], box[1]}, {box[2], box[3]}, {box[0], box[3]}}) {
    const Point seen = toWidget_(corner);
    frame << QPointF(seen.x, seen.y);
  }
  const QColor tint = Theme::now().persimmon;
  p.setPen(QPen(QColor(255, 255, 255, 150), 1.6));
  p.setBrush(Qt::NoBrush);
  p.drawPolygon(frame);
  p.setPen(QPen(tint, 1.6, Qt::DashLine));
  p.setBrush(all_ ? QColor(tint.red(), tint.green(), tint.blue(), 60) : QColor(Qt::transparent));
  p.drawPolygon(frame);
  p.setBrush(Qt::NoBrush);
  if (all_) return;
  const auto [top, bottom] = caret();
  p.setPen(QPen(QColor(0, 0, 0, 170), 5, Qt::SolidLine, Qt::RoundCap));
  p.drawLine(top, bottom);
  p.setPen(QPen(Qt::white, 2.4, Qt::SolidLine, Qt::RoundCap));
  p.drawLine(top, bottom);
}

}  // namespace oa::app
