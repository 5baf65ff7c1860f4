"""An attack on the application: ./run attack [--minutes M] [--seed N] [--write] [readers settings saves window disks hands]"""
