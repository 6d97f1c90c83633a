"""What the program does with a shop, without web: which machine is in use, the choices of a job, recording a step."""
