"""One more kitchen in an installation. Run as ``python -m brinefrost.store.new_kitchen WORD``."""

import os
import sys

from brinefrost.store.kitchens import add_kitchen

if __name__ == "__main__":
    try:
        add_kitchen(os.environ["BRINEFROST_OWNER_URL"], sys.argv[1])
    except ValueError as error:
        sys.stderr.write(f"{error}\n")
        sys.exit(1)
