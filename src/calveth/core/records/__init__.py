"""What a project keeps of hives that stand: values below everything that works them out."""
