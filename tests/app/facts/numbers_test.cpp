#include <QtTest/QtTest>

#include "core/random.h"
#include "numbers.h"
#include "test_program.h"
#include "view/camera.h"

using namespace rubble;
using namespace rubble::app;

class NumbersTest : public QObject {
    Q_OBJECT

private slots:
    void sums_and_units_are_understood() {
        QCOMPARE(*parse_metres("4 + 0.5"), 4.5);
        QCOMPARE(*parse_metres("6 m / 2"), 3.0);
        QCOMPARE(*parse_metres("350 cm"), 3.5);
        QCOMPARE(*parse_metres("-(1 + 2) * 3"), -9.0);
        QCOMPARE(*parse_metres("1,25"), 1.25);
        for (const char* bad : {"", "m", "4 +", "(2", "1/0", "two", "1 2"}) QVERIFY2(!parse_metres(bad), bad);
    }

    void numbers_are_the_same_in_every_language() {
        const QLocale before;
        QLocale::setDefault(QLocale(QLocale::German, QLocale::Germany));
        const QString plain = plain_number(1234.5), metres = metres_text(1.5);
        const auto read = parse_metres("1.5 + 0,25");
        QLocale::setDefault(before);
        QCOMPARE(plain, QString("1234.5"));
        QCOMPARE(metres, QString("1.50 m"));
        QCOMPARE(*read, 1.75);
    }

    void screen_and_level_map_both_ways() {
        test::Random random(5101);
        for (int i = 0; i < 200; ++i) {
            Camera camera;
            camera.kind = random.chance(0.5) ? Camera::Kind::free : Camera::Kind::above;
            camera.target = {random.between(-20, 20), random.between(-20, 20), random.between(0, 5)};
            camera.heading_deg = random.between(-180, 180), camera.tilt_deg = random.between(-30, 80),
            camera.distance_m = random.between(3, 60);
            camera.size = {1280, 800};
            const QPointF screen(random.between(0, 1280), random.between(0, 800));
            const Vec3 at = camera.ray(screen).at(random.between(2, 50));
            const auto back = camera.to_screen(at);
            QVERIFY(back && std::hypot(back->x() - screen.x(), back->y() - screen.y()) < 1e-6);
        }
    }

    void zooming_keeps_the_place_under_the_pointer() {
        Camera camera;
        camera.size = {1280, 800};
        const QPointF pointer(300, 200);
        const Vec3 on_target_plane =
            camera.eye() +
            camera.ray(pointer).direction *
                (camera.distance_m / glm::dot(camera.ray(pointer).direction, camera.forward()));
        const auto after = camera.zoomed(0.5, pointer).to_screen(on_target_plane);
        QVERIFY(after && std::hypot(after->x() - pointer.x(), after->y() - pointer.y()) < 1e-6);
    }
};

RUBBLE_TEST(NumbersTest)
#include "numbers_test.moc"
