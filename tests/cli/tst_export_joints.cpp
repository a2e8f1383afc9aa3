// The joint in time, decoded: no encoder may rest there or jump.
#include <QMap>
#include <QTemporaryDir>
#include <QTest>

#include "support/files.h"

using namespace oa::test;

namespace {

QString demo(const QString& name) { return QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/") + name; }

}  // namespace

class TestExportJoints : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void jointsMoveAsTheyAreRendered_data();
  void jointsMoveAsTheyAreRendered();

 private:
  QMap<QString, double> rendered_;  // of each scene, as a share of its usual step
};

void TestExportJoints::jointsMoveAsTheyAreRendered_data() {
  QTest::addColumn<QString>("scene");
  QTest::addColumn<QString>("format");
  // The slowest ones, where an encoder would rest or jump at the joint, and one that moves well.
  for (const char* scene : {"lantern-sunset", "old-chart"})
    for (const char* format : {"mp4", "webm"}) QTest::addRow("%s as %s", scene, format) << scene << format;
  QTest::newRow("sail-loft as mp4") << "sail-loft"
                                    << "mp4";
  QTest::newRow("lantern-sunset as gif") << "lantern-sunset"
                                         << "gif";
}

void TestExportJoints::jointsMoveAsTheyAreRendered() {
  QFETCH(QString, scene);
  QFETCH(QString, format);
  const QTemporaryDir folder;
  const auto joint = [&](const QString& target) {
    const Finished done = cli({"render", demo(scene + ".overagain"), "-o", target, "--size", "320x180", "--quiet"});
    const DecodedJoint measured = done.exitCode == 0 ? decodedJoint(decoded(target, 320, 180)) : DecodedJoint{};
    return measured.median > 0 ? measured.joint / measured.median : -1;
  };
  if (!rendered_.contains(scene)) rendered_[scene] = joint(folder.filePath("f_%04d.png"));
  const double rendered = rendered_[scene];
  const double handedOver = joint(folder.filePath("a." + format));
  QVERIFY(rendered > 0.1);
  QVERIFY2(handedOver >= 0.67 * rendered && handedOver <= 1.5 * rendered,
           qPrintable(QStringLiteral("%1 of the usual step, %2 as rendered").arg(handedOver).arg(rendered)));
}

QTEST_GUILESS_MAIN(TestExportJoints)
#include "tst_export_joints.moc"
