python3 "$STANDINS/assemblies.py" Assets
