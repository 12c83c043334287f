#include <QCoreApplication>

#include "test_program.h"

int main(int argc, char** argv) {
    QCoreApplication application(argc, argv);
    return rubble::test::run_test_classes(argc, argv);
}
