#include <QApplication>

#include "test_program.h"
#include "theme.h"
#include "view/surface_format.h"

int main(int argc, char** argv) {
    rubble::app::use_surface_format();
    QApplication application(argc, argv);
    rubble::app::apply_theme(application);
    return rubble::test::run_test_classes(argc, argv);
}
